/** `beats`: the beats of a file's sound, and how many a minute. */
import type { Option } from 'commander';
import { type Beats, BEATS_FOUND, beatsAs, COUNTED, countedBy } from '../core';
import { BEATS_RATE, beatsIn } from '../server/media/beats';
import { monoOfFile } from '../server/media/sound-samples';
import { flag, needed, one, Usage, value, type Words } from './args';

/** Options of `beats`. */
export const BEATS_OPTIONS: readonly Option[] = [
  value('in', 'file', 'any file with sound'),
  value('counted', 'how', `${COUNTED.join(', ')}: every second beat, all, one more between`),
  flag('json', 'as JSON, in seconds'),
];

/** Finds the beats of the first track of a file's sound. Throws `Usage` if it has none. */
export async function foundBeats(w: Words): Promise<Beats> {
  const file = needed(w, 'in'),
    said = one(w, 'counted') ?? 'each',
    counted = COUNTED.find((c) => c === said);
  if (!counted) throw new Usage(`--counted is one of ${COUNTED.join(', ')}, not "${said}"`);
  const mono = await monoOfFile(file, BEATS_RATE);
  if (!mono) throw new Usage(`"${file}" has no sound that can be read`);
  const found = await beatsIn(mono);
  return beatsAs(found, countedBy(found, BEATS_FOUND, counted));
}

/** The same in words. */
export const beatsInWords = ({ beats, bars, tempo }: Beats): string =>
  beats.length === 0
    ? 'no beats are found'
    : `${tempo.toFixed(1)} a minute, ${beats.length} beats in ${bars.length} bars, the first at ${beats[0]!.toFixed(2)} s`;
