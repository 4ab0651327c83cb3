/** Uploads: recognising looks, reading folders, and broken connections. */
import { afterEach, describe, expect, it, vi } from 'vitest';
import { batchesIn, batchesOf, dropped, looksFirst, sendBatch, takeLooks } from './uploads';

const http = vi.hoisted(() => ({ call: vi.fn(), upload: vi.fn() }));
vi.mock('./http', () => http);
afterEach(() => vi.resetAllMocks());

const file = (name: string, bytes = 4): File => new File([new Uint8Array(bytes)], name);
const never = new AbortController().signal;

describe('what is dropped', () => {
  const entry = (f: File): FileSystemFileEntry =>
    ({
      isFile: true,
      isDirectory: false,
      name: f.name,
      file: (ok: (f: File) => void) => ok(f),
    }) as FileSystemFileEntry;
  /** A folder that lists its files two at a time, as browsers do by the hundred. */
  const folder = (name: string, files: File[]): FileSystemDirectoryEntry =>
    ({
      isFile: false,
      isDirectory: true,
      name,
      createReader: () => {
        const left = files.map(entry);
        return { readEntries: (ok: (e: FileSystemEntry[]) => void) => ok(left.splice(0, 2)) };
      },
    }) as unknown as FileSystemDirectoryEntry;
  const items = (...all: [FileSystemEntry | null, File | null][]): DataTransferItemList =>
    all.map(([e, f]) => ({ webkitGetAsEntry: () => e, getAsFile: () => f })) as never;

  it('is a batch a file, and a batch a folder of its pictures', async () => {
    const gulls = file('gulls.mp4');
    const pictures = ['a.png', 'b.exr', 'notes.txt', 'c.dpx', '.DS_Store'].map((n) => file(n));
    const batches = await dropped(
      items([entry(gulls), gulls], [folder('spool', pictures), null], [null, null]),
    );
    expect(batches.map((b) => [b.name, b.files.map((f) => f.name)])).toEqual([
      ['gulls.mp4', ['gulls.mp4']],
      ['spool', ['a.png', 'b.exr', 'c.dpx']],
    ]);
  });

  it('that is a look is told where it belongs, and the footage goes on', async () => {
    const all = batchesOf([file('silt.wabisabi'), file('gulls.mp4'), file('plain.json')]);
    const { said, left } = await looksFirst(all);
    expect(said).toBe('silt.wabisabi, plain.json are looks: drop it on the Shelf.');
    expect(left.map((b) => b.name)).toEqual(['gulls.mp4']);
    expect(await looksFirst(left)).toEqual({ said: null, left });
  });

  it('that is a look goes to the place that takes looks, one at a time, until it takes none', async () => {
    const taken: string[] = [];
    const stop = takeLooks((f) => taken.push(f.name));
    const two = batchesOf([file('silt.wabisabi'), file('ferrous.wabisabi')]);
    expect((await looksFirst(two)).said).toBe('One look at a time: the first is shown.');
    expect(taken).toEqual(['silt.wabisabi']);
    stop();
    expect((await looksFirst(batchesOf([file('silt.wabisabi')]))).said).toMatch(/is a look/);
    expect(taken).toHaveLength(1);
  });

  it('a picture is footage, unless a look lies in it', async () => {
    const { said, left } = await looksFirst(batchesOf([file('still.png')]));
    expect([said, left.length]).toEqual([null, 1]);
  });
});

describe('a batch', () => {
  it('is opened, sent file by file with one progress, and handed on', async () => {
    http.call.mockImplementation((_, url: string) =>
      Promise.resolve(url.endsWith('/imports') ? { id: 'i1' } : undefined),
    );
    http.upload.mockImplementation((_, __, onShare: (s: number) => void) => {
      onShare(0.5);
      onShare(1);
      return Promise.resolve();
    });
    const shares: number[] = [];
    const batch = { name: 'spool', files: [file('a.png', 30), file('b.png', 10)] };
    await sendBatch('p1', batch, (s) => shares.push(s), never);
    expect(http.upload.mock.calls.map((c) => c[0])).toEqual([
      '/api/imports/i1/0',
      '/api/imports/i1/1',
    ]);
    expect(shares).toEqual([0.375, 0.75, 0.875, 1]);
    expect(http.call.mock.calls.map((c) => c.slice(0, 2))).toEqual([
      ['POST', '/api/projects/p1/imports'],
      ['POST', '/api/imports/i1'],
    ]);
  });

  it('that breaks off is taken back', async () => {
    http.call.mockResolvedValue({ id: 'i2' });
    http.upload.mockRejectedValue(new Error('the line went'));
    const batch = { name: 'a', files: [file('a.png')] };
    await expect(sendBatch('p1', batch, () => {}, never)).rejects.toThrow('the line went');
    expect(http.call.mock.calls.at(-1)!.slice(0, 2)).toEqual(['DELETE', '/api/imports/i2']);
  });

  it('of nothing, or with an empty file, is refused before anything is opened', async () => {
    const nothing = sendBatch('p1', { name: 'spool', files: [] }, () => {}, never);
    await expect(nothing).rejects.toThrow(/holds no pictures/);
    const empty = { name: 'x', files: [file('a.png'), file('b.png', 0)] };
    await expect(sendBatch('p1', empty, () => {}, never)).rejects.toThrow(/"b\.png" is empty/);
    expect(http.call).not.toHaveBeenCalled();
  });

  it('goes after the one before it, and what is refused is said while the rest comes in', async () => {
    http.call.mockResolvedValue({ id: 'i3' });
    http.upload.mockImplementation((_, f: File) =>
      f.name === 'bad.mp4' ? Promise.reject(new Error('no')) : Promise.resolve(),
    );
    const at: [string, number][] = [];
    const all = batchesOf([file('bad.mp4'), file('good.mp4')]);
    expect(await batchesIn('p1', all, (name, share) => at.push([name, share]))).toEqual([
      'bad.mp4: no',
    ]);
    expect(at.filter(([, s]) => s === 0 || s === 0.5)).toEqual([
      ['bad.mp4', 0],
      ['good.mp4', 0.5],
    ]);
  });
});
