/** Trims of the look on the Bench, and what a change did to them. */
import { type DialValue, type DialValues, withTrim } from '../../../core';

/** Each clip's trims of the look, by the clip's id. */
export type TrimsByClip = Readonly<Record<string, DialValues>>;
/** No trims. */
export const NO_TRIMS: DialValues = {};

/** Values of trims by clip and dial; undefined for none. */
export type TrimValues = Readonly<Record<string, Readonly<Record<string, DialValue | undefined>>>>;
/** Each trim that differs between two states, as it was in the first. */
export function trimsBefore(before: TrimsByClip, after: TrimsByClip): TrimValues {
  const clips = Object.keys({ ...before, ...after }).filter((c) => before[c] !== after[c]);
  return Object.fromEntries(
    clips.flatMap((clip) => {
      const [was, is] = [before[clip] ?? NO_TRIMS, after[clip] ?? NO_TRIMS];
      const dials = Object.keys({ ...was, ...is }).filter((d) => was[d] !== is[d]);
      return dials.length > 0 ? [[clip, Object.fromEntries(dials.map((d) => [d, was[d]]))]] : [];
    }),
  );
}
/** Trims with some of their values set. */
export function withTrimValues(trims: TrimsByClip, values: TrimValues): TrimsByClip {
  const next = { ...trims };
  for (const [clip, dials] of Object.entries(values)) {
    let own = next[clip] ?? NO_TRIMS;
    for (const [dial, value] of Object.entries(dials)) own = withTrim(own, dial, value);
    if (Object.keys(own).length > 0) next[clip] = own;
    else delete next[clip];
  }
  return next;
}
/** The values of one set of trims at the places of another. */
export const valuesAt = (trims: TrimsByClip, places: TrimValues): TrimValues =>
  Object.fromEntries(
    Object.entries(places).map(([clip, dials]) => [
      clip,
      Object.fromEntries(Object.keys(dials).map((d) => [d, trims[clip]?.[d]])),
    ]),
  );
