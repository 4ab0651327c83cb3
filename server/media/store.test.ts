import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Footage } from './footage';
import { storeOriginal } from './store';

const data = mkdtempSync(join(tmpdir(), 'wabisabi-store-'));
const before = { ...process.env };
beforeAll(() => {
  process.env['WABISABI_DATA'] = data;
  process.env['WABISABI_DATABASE'] = 'none';
});
afterAll(() => {
  process.env = before;
  rmSync(data, { recursive: true, force: true });
});
const facts = (kind: Footage['kind'], hash: string) => ({ kind, hash }) as Footage;

describe('an original that was brought in', () => {
  it('lies in its place, and stays where it was brought until the import is over', async () => {
    const upload = join(data, 'clip.MOV');
    writeFileSync(upload, 'pictures');
    expect(await storeOriginal(upload, facts('video', 'aa'))).toBe('footage/aa/original.mov');
    expect(readFileSync(join(data, 'footage/aa/original.mov'), 'utf8')).toBe('pictures');
    // The process ended before the import was recorded, and it starts again.
    expect(existsSync(upload)).toBe(true);
    expect(await storeOriginal(upload, facts('video', 'aa'))).toBe('footage/aa/original.mov');
    expect(readdirSync(join(data, 'footage/aa'))).toEqual(['original.mov']);
    rmSync(upload);
    expect(readFileSync(join(data, 'footage/aa/original.mov'), 'utf8')).toBe('pictures');
  });
  it('so does a folder of pictures, also one of which some were stored before', async () => {
    const upload = join(data, 'pictures');
    mkdirSync(upload);
    for (const n of ['0', '1', '2']) writeFileSync(join(upload, `${n}.png`), n);
    await storeOriginal(upload, facts('sequence', 'bb'));
    rmSync(join(data, 'footage/bb/pictures/1.png'));
    expect(await storeOriginal(upload, facts('sequence', 'bb'))).toBe('footage/bb/pictures');
    expect(
      readdirSync(join(data, 'footage/bb/pictures')).map((n) =>
        readFileSync(join(data, 'footage/bb/pictures', n), 'utf8'),
      ),
    ).toEqual(['0', '1', '2']);
    expect(readdirSync(upload)).toHaveLength(3);
  });
});
