/** Mattes of subjects in footage, from its files. */
import { type MadeMatte, type SubjectGiven, subjectMattes } from '../../core/subject';
import type { Footage } from './footage';
import { FootageReader } from './footage-reader';
import { PairFinder } from './motion';
import type { Place } from './place';

/** The mattes of a subject, in the order in which they are made; motion is measured as it is needed. */
export async function* subjectIn(
  place: Place,
  facts: Footage,
  given: Pick<SubjectGiven, 'marks' | 'cuts'>,
): AsyncGenerator<MadeMatte> {
  const clip = { content: facts.hash, frames: facts.frames, rate: facts.rate };
  const reader = new FootageReader(null, place, facts, clip, {});
  const frame = async (at: number) => (await reader.at(at)).get(at)!.own;
  const pairs = new PairFinder(frame, undefined);
  const pair = async (at: number) => {
    const found = await pairs.at(at);
    pairs.keepOnly(new Set([at]));
    return found.pair();
  };
  try {
    yield* subjectMattes(given, facts.frames, { frame, pair });
  } finally {
    await reader.close();
  }
}
