import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { attachment, fileAnswer } from './file';

const folder = mkdtempSync(join(tmpdir(), 'wabisabi-test-'));
afterAll(() => rmSync(folder, { recursive: true }));
const file = join(folder, 'a.bin');
writeFileSync(file, Buffer.from([...Array(100).keys()]));
const ask = (range?: string) =>
  fileAnswer(new Request('http://x/', range ? { headers: { range } } : {}), file, {});

describe('a file as an answer', () => {
  it.each([
    ['bytes=0-9', 206, 'bytes 0-9/100', 10],
    ['bytes=90-', 206, 'bytes 90-99/100', 10],
    ['bytes=-5', 206, 'bytes 95-99/100', 5],
    ['bytes=50-500', 206, 'bytes 50-99/100', 50],
    [undefined, 200, null, 100],
  ] as const)('of %s is %i', async (range, status, told, length) => {
    const answer = await ask(range);
    const bytes = new Uint8Array(await answer.arrayBuffer());
    expect([answer.status, answer.headers.get('content-range'), bytes.length]).toEqual([
      status,
      told,
      length,
    ]);
    if (told) expect(bytes[0]).toBe(Number(/\d+/.exec(told)![0]));
  });
  it('beyond its end is told what there is', async () => {
    expect((await ask('bytes=200-')).status).toBe(416);
  });
  it('to download has its name in any script', () => {
    const header = attachment("夜の港 o'brien 50%.mp4");
    expect(header).toBe(
      'attachment; filename="_o_brien_50_.mp4"; filename*=UTF-8\'\'%E5%A4%9C%E3%81%AE%E6%B8%AF%20o%27brien%2050%25.mp4',
    );
    expect(() => new Headers({ 'content-disposition': header })).not.toThrow();
  });
});
