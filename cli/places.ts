/** Places on the command line: numbers in per cent of the picture, and degrees. */
import { PLACE_KINDS, type PlaceKindId, type PlaceValue } from '../core';

const numbersIn = (text: string): number[] => text.split(',').map(Number);
/** A node of an outline: its place, and how far off its two handles lie if it is round. */
const nodeIn = (text: string): number[] => {
  const all = numbersIn(text).map((v) => v / 100);
  return all.length === 2 ? [...all, 0, 0, 0, 0] : all;
};

/** A place of a kind from words; undefined if they are none. */
export function placeFrom(kind: PlaceKindId, text: string): PlaceValue | undefined {
  const of = PLACE_KINDS[kind];
  const fields = of.fields as readonly string[];
  const value =
    kind === 'outline'
      ? { nodes: text.trim().split(/\s+/).map(nodeIn) }
      : Object.fromEntries(
          numbersIn(text).map((v, i) => [fields[i] ?? '', fields[i] === 'turn' ? v : v / 100]),
        );
  return of.is(value) ? (value as unknown as PlaceValue) : undefined;
}
/** How a kind is written, for messages. */
export const placeWords = (kind: PlaceKindId): string =>
  `${PLACE_KINDS[kind].words} like ${PLACE_KINDS[kind].example}`;
