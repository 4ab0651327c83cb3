import { describe, expect, it } from 'vitest';
import { type BakedFolder, PictureStore, type Packing } from './picture-store';

/** Only the members of the browser's type that the store uses. */
const picture = (value: number, pixels = 4) =>
  ({
    width: pixels,
    height: 1,
    data: new Uint8ClampedArray(pixels * 4).fill(value),
  }) as unknown as ImageData;
const packing: Packing = {
  pack: async (image) => new Blob([new Uint8Array(image.data)]),
  unpack: async (file) => {
    const data = new Uint8ClampedArray(await file.arrayBuffer());
    return { width: data.length / 4, height: 1, data } as unknown as ImageData;
  },
};
function folder(files = new Map<string, Blob>()): BakedFolder & { files: Map<string, Blob> } {
  return {
    files,
    list: async () => new Map([...files].map(([name, file]) => [name, file.size])),
    read: async (name) => files.get(name)!,
    write: async (name, file) => void files.set(name, file),
    remove: async (name) => void files.delete(name),
  };
}

describe('kept pictures', () => {
  it('keeps the latest in memory within its bytes, those asked for last the longest', async () => {
    const kept = new PictureStore(undefined, packing, 0, 2 * 16);
    kept.keep('a', picture(1));
    kept.keep('b', picture(2));
    await kept.find('a');
    kept.keep('c', picture(3));
    expect(await kept.state('a')).toBe('kept');
    expect(await kept.state('b')).toBeUndefined();
    expect((await kept.find('c'))!.data[0]).toBe(3);
  });

  it('finds what was baked after a reload, and no other', async () => {
    const disk = folder();
    await new PictureStore(disk, packing).bake('look at 7', picture(9));
    const later = new PictureStore(disk, packing);
    expect(await later.state('look at 7')).toBe('baked');
    expect(await later.state('look at 8')).toBeUndefined();
    expect((await later.find('look at 7'))!.data[0]).toBe(9);
    expect(await later.total()).toEqual({ bytes: 16, files: 1 });
  });

  it('takes the oldest away where room ends', async () => {
    const disk = folder();
    const kept = new PictureStore(disk, packing, 2 * 16);
    for (const key of ['a', 'b', 'c']) await kept.bake(key, picture(1));
    expect(await kept.state('a')).toBeUndefined();
    expect(await kept.state('c')).toBe('baked');
    expect(disk.files.size).toBe(2);
  });

  it('a file that was taken away or broken costs only its being computed again', async () => {
    const disk = folder();
    const kept = new PictureStore(disk, {
      ...packing,
      unpack: () => Promise.reject(new Error('not a picture')),
    });
    await kept.bake('a', picture(1));
    expect(await kept.find('a')).toBeUndefined();
    expect(await kept.state('a')).toBeUndefined();
    expect(disk.files.size).toBe(0);
  });

  it('says that it cannot bake where the browser has no folder, and tells what stops it', async () => {
    expect(new PictureStore(undefined, packing).canBake).toBe(false);
    const full = new PictureStore(
      { ...folder(), write: () => Promise.reject(new Error('no room')) },
      packing,
    );
    await expect(full.bake('a', picture(1))).rejects.toThrow('no room');
    expect(await full.state('a')).toBeUndefined();
  });

  it('clears at once', async () => {
    const disk = folder();
    const kept = new PictureStore(disk, packing);
    await kept.bake('a', picture(1));
    await kept.clear();
    expect(await kept.state('a')).toBeUndefined();
    expect(disk.files.size).toBe(0);
  });
});
