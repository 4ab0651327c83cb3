/** Test helpers: unusual files, made with ffmpeg. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run } from '../media/run';

/** A temporary folder. */
export const scratch = (): string => mkdtempSync(join(tmpdir(), 'wabisabi-test-'));
/** Removes a temporary folder. */
export const sweep = (folder: string): void => rmSync(folder, { recursive: true, force: true });

/** A moving test picture whose frames all differ, written as `name` in `folder`. */
export async function made(
  folder: string,
  name: string,
  output: readonly string[],
  {
    size = '96x64',
    rate = '25',
    seconds = 2,
    sound = false,
  }: { size?: string; rate?: string; seconds?: number; sound?: boolean } = {},
): Promise<string> {
  const file = join(folder, name);
  const picture = ['-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}:duration=${seconds}`];
  const tone = sound ? ['-f', 'lavfi', '-i', `sine=frequency=440:duration=${seconds}`] : [];
  await run('ffmpeg', [...picture, ...tone, ...output, file]);
  return file;
}

/** Writes the first `share` of a file's bytes. */
export function cut(file: string, to: string, share: number): string {
  const all = readFileSync(file);
  writeFileSync(to, all.subarray(0, Math.floor(all.length * share)));
  return to;
}
