/** `bake-lut`: writes a look whose steps depend on colour alone as a `.cube` file. */
import { rename, rm, writeFile } from 'node:fs/promises';
import { ENCODINGS, isEncoding, type EncodingId } from '../core';
import { bake, notBakeable, writeCube } from '../core/formats';
import type { Option } from 'commander';
import { needed, one, Usage, value, type Words } from './args';
import { LOOK_OPTIONS, lookFrom } from './look';

/** Options of `bake-lut`. */
export const BAKE_OPTIONS: readonly Option[] = [
  ...LOOK_OPTIONS,
  value('out', 'file.cube', 'where it is written'),
  value('size', 'n', 'entries a side, 2 to 65; 33 without'),
  value('takes', 'encoding', 'of the colours it is given; srgb without'),
  value('gives', 'encoding', 'of the colours it answers; srgb without'),
];

const SIZES = [2, 65] as const;

function encoding(w: Words, name: string): EncodingId {
  const id = one(w, name) ?? 'srgb';
  if (!isEncoding(id)) throw new Usage(`--${name} must be one of ${ENCODINGS.join(', ')}`);
  return id;
}

/** Writes the file and returns a line about its size and accuracy. */
export async function bakeLut(w: Words): Promise<string> {
  const out = needed(w, 'out');
  if (!out.toLowerCase().endsWith('.cube')) throw new Usage('--out must end in .cube');
  const size = Number(one(w, 'size') ?? 33);
  if (!Number.isInteger(size) || size < SIZES[0] || size > SIZES[1])
    throw new Usage(`--size must be a whole number from ${SIZES[0]} to ${SIZES[1]}`);
  const { look, dials } = await lookFrom(w);
  const not = notBakeable(look, dials);
  if (not.length > 0)
    throw new Usage(
      `${look.name} cannot be baked to a cube: ${not.join(', ')} ${not.length > 1 ? 'look' : 'looks'} at more than a pixel's own colour`,
    );
  const { cube, colours, largestError, places } = bake(look, {
    size,
    takes: encoding(w, 'takes'),
    gives: encoding(w, 'gives'),
    dials,
  });
  const half = `${out}.part`;
  try {
    await writeFile(half, writeCube(cube, colours));
    await rename(half, out);
  } catch (e) {
    await rm(half, { force: true });
    throw new Usage(`${out} could not be written: ${(e as Error).message}`);
  }
  const most = `${largestError.toFixed(5)} of the code range`;
  return `${out}: ${size}×${size}×${size}, largest error found at ${places} places ${most}`;
}
