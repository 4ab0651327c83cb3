/** `loudness`: how loud a file's sound is, by ITU-R BS.1770. */
import { extname } from 'node:path';
import type { Option } from 'commander';
import type { Loudness } from '../core';
import { loudnessOfFile } from '../server/media/sound-samples';
import { flag, needed, Usage, value, type Words } from './args';

/** Options of `loudness`. */
export const LOUDNESS_OPTIONS: readonly Option[] = [
  value('in', 'file', 'any file with sound'),
  flag('json', 'as JSON'),
];

/** Measures the first track of a file's sound. Throws `Usage` if it has none. */
export async function measuredLoudness(w: Words): Promise<Loudness> {
  const file = needed(w, 'in');
  const found = await loudnessOfFile(file);
  if (!found)
    throw new Usage(
      `"${file}" has no sound that can be read${extname(file) ? '' : ': name a file'}`,
    );
  return found;
}
