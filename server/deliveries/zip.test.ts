/** Stills in one archive. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { afterAll, expect, it } from 'vitest';
import { scratch, sweep } from '../testing/awkward';
import { zipFolder } from './zip';

const folder = scratch();
afterAll(() => sweep(folder));

it('files are stored as they are, and the same files give the same archive', async () => {
  const names = ['000000.png', '000001.png', '000002.png'];
  names.forEach((n, i) => writeFileSync(join(folder, n), Buffer.alloc(1000 + i, i)));
  const [a, b] = [join(folder, 'a.zip'), join(folder, 'b.zip')];
  await zipFolder(folder, names, a);
  await zipFolder(folder, names, b);
  const bytes = readFileSync(a);
  expect(Buffer.compare(bytes, readFileSync(b))).toBe(0);
  const back = unzipSync(bytes);
  expect(Object.keys(back)).toEqual(names);
  names.forEach((n, i) =>
    expect(Buffer.compare(Buffer.from(back[n]!), Buffer.alloc(1000 + i, i))).toBe(0),
  );
  // Stills are compressed already, so the archive stores them as they are.
  expect(bytes.length).toBeGreaterThan(3000);
});

it('a file that is not there is an error, not an archive without it', async () => {
  await expect(zipFolder(folder, ['gone.png'], join(folder, 'c.zip'))).rejects.toThrow(/gone\.png/);
});
