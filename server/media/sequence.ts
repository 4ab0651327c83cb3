/**
 * Folders of pictures as footage: which pictures are missing by their numbers, which have another
 * size, and numbered links in which both are made good.
 */
import { mkdir, rename, rm, symlink } from 'node:fs/promises';
import { basename, extname, join, resolve } from 'node:path';
import type { SequenceChoice } from '../../core';
import { NotFootage } from './footage';
import { input, output, patternIn, run } from './run';

/** A folder's pictures as numbered links. */
export interface Numbered {
  /** What was made good, as text. */
  readonly notes: readonly string[];
  /** Number of pictures that are missing. */
  readonly missing: number;
  /** Part of the content's name: empty where nothing was made good. */
  readonly variant: string;
}

/** Numbers that leave more than this many times the pictures missing do not count frames. */
const SPARSE = 10;

/**
 * The place of each picture by the last number in its name, from 0; the smallest distance between
 * two is one frame. Undefined if the names do not count frames.
 */
export function positionsOf(names: readonly string[]): number[] | undefined {
  const parts = names.map((n) => /^(.*?)(\d+)(\D*)$/.exec(basename(n, extname(n))));
  if (parts.some((p) => !p || p[1] !== parts[0]![1] || p[3] !== parts[0]![3])) return undefined;
  const numbers = parts.map((p) => Number(p![2]));
  const steps = numbers.slice(1).map((n, i) => n - numbers[i]!);
  const step = Math.min(...steps, Infinity);
  if (!(step > 0) || step === Infinity || steps.some((s) => s % step !== 0)) return undefined;
  const positions = numbers.map((n) => (n - numbers[0]!) / step);
  return positions.at(-1)! >= names.length * SPARSE ? undefined : positions;
}

/** Stretches of whole numbers, as text: `3, 7–9`. */
const stretches = (numbers: readonly number[]): string => {
  const runs: [number, number][] = [];
  for (const n of numbers) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  const shown = runs.slice(0, 8).map(([a, b]) => (a === b ? `${a}` : `${a}–${b}`));
  return shown.join(', ') + (runs.length > shown.length ? ' …' : '');
};

/** Width and height of each picture of a numbered pattern. */
async function sizesOf(pattern: string): Promise<string[]> {
  const found: string[] = [];
  const read = ['-select_streams', 'v:0', '-show_entries', 'frame=width,height', '-of', 'csv=p=0'];
  await run(
    'ffprobe',
    [...read, ...input(pattern, '-f', 'image2', '-start_number', '0')],
    (line) => {
      const [width, height] = line.split(',');
      if (height) found.push(`${width}x${height}`);
    },
  );
  return found;
}

/** The most frequent of some texts. */
function usual(all: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const s of all) counts.set(s, (counts.get(s) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/**
 * Writes links numbered from 0 to `folder` (whole, or not at all). Throws `NotFootage` where the
 * choice is to refuse.
 */
export async function numberPictures(
  pictures: readonly string[],
  folder: string,
  choice: SequenceChoice,
  name: string,
): Promise<Numbered> {
  const extension = extname(pictures[0]!);
  const part = `${folder}.part`;
  const at = (dir: string, n: number): string =>
    join(dir, `${String(n).padStart(8, '0')}${extension}`);
  await rm(part, { recursive: true, force: true });
  await mkdir(part, { recursive: true });
  try {
    const notes: string[] = [];
    // All sizes are read from links without gaps, in one go.
    const close = join(part, 'close');
    await mkdir(close);
    await Promise.all(pictures.map((p, i) => symlink(resolve(p), at(close, i))));
    const sizes = await sizesOf(patternIn(close, `%08d${extension}`)).catch(() => [] as string[]);
    const size = usual(sizes);
    await rm(close, { recursive: true });

    const positions = positionsOf(pictures) ?? pictures.map((_, i) => i);
    const odd = pictures.filter((_, i) => sizes[i] !== undefined && sizes[i] !== size);
    if (odd.length > 0) {
      const most = size?.replace('x', '×');
      const frames = stretches(odd.map((p) => positions[pictures.indexOf(p)]!));
      const what =
        `${odd.length} of ${pictures.length} pictures are not ${most} ` +
        `(frames ${frames}, counted from 0)`;
      if (choice.sizes === 'refuse') throw new NotFootage(`"${name}": ${what}: make them alike`);
      notes.push(`${what}: fitted with bars`);
    }
    const there = new Set(positions);
    const missing = Array.from({ length: positions.at(-1)! + 1 }, (_, i) => i).filter(
      (i) => !there.has(i),
    );
    if (missing.length > 0) {
      const what =
        `${missing.length} pictures are missing ` +
        `(frames ${stretches(missing)}, counted from 0)`;
      if (choice.gaps === 'refuse')
        throw new NotFootage(`"${name}": ${what}: bring the whole folder`);
      notes.push(
        `${what}: ${choice.gaps === 'black' ? 'black stands there' : 'the one before is held'}`,
      );
    }
    let next = 0;
    for (const [i, picture] of pictures.entries()) {
      const shown = at(part, positions[i]!);
      const isOdd = odd.includes(picture);
      if (isOdd) await fitted(picture, shown, size!);
      else await symlink(resolve(picture), shown);
      for (next++; next < (positions[i + 1] ?? 0); next++)
        if (choice.gaps === 'black') await black(shown, at(part, next));
        else await symlink(isOdd ? basename(shown) : resolve(picture), at(part, next));
    }
    await rm(folder, { recursive: true, force: true });
    await rename(part, folder);
    const variant = [
      ...(missing.length > 0 ? [`gaps ${choice.gaps} ${missing.join()}`] : []),
      ...(odd.length > 0 ? [`sizes ${choice.sizes}`] : []),
    ].join(' ');
    return { notes, missing: missing.length, variant };
  } catch (e) {
    await rm(part, { recursive: true, force: true });
    throw e;
  }
}

const PICTURE = ['-frames:v', '1', '-f', 'image2', '-update', '1'];
const still = (file: string): string[] => input(file, '-f', 'image2', '-pattern_type', 'none');

/** A picture as large as fits the size, with bars. */
async function fitted(picture: string, to: string, size: string): Promise<void> {
  const [w, h] = size.split('x');
  const filters = `scale=${w}:${h}:force_original_aspect_ratio=decrease:flags=bicubic,pad=${w}:${h}:-1:-1`;
  await run('ffmpeg', [...still(picture), '-vf', filters, ...PICTURE, output(to)]);
}

/** A black picture of the size and samples of another. */
async function black(like: string, to: string): Promise<void> {
  const filters = 'drawbox=color=black:t=fill:replace=1';
  await run('ffmpeg', [...still(like), '-vf', filters, ...PICTURE, output(to)]);
}
