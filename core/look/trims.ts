/** Trims: a clip's own values for dials of its look. */
import type { Dial, LookDocument } from './document';
import type { DialValue, DialValues } from './document';

/** Whether a value is of the dial's kind. */
export const ofKind = (dial: Dial, v: DialValue): boolean =>
  dial.kind === 'number'
    ? typeof v === 'number'
    : dial.kind === 'switch'
      ? typeof v === 'boolean'
      : typeof v === 'object';

const held = (dial: Dial, v: DialValue): DialValue =>
  typeof v === 'number' ? Math.max(dial.min!, Math.min(dial.max!, v)) : v;

const known = new WeakMap<LookDocument, WeakMap<DialValues, LookDocument>>();

/**
 * The look with a clip's trims: dials have the clip's values, clamped to their ranges. A trim whose
 * dial is gone, or has another kind now, is ignored. The same look and trims return the same
 * object.
 */
export function withTrims(look: LookDocument, trims: DialValues | undefined): LookDocument {
  if (!trims || !look.dials.some((d) => d.key in trims)) return look;
  const made = known.get(look) ?? known.set(look, new WeakMap()).get(look)!;
  const at = made.get(trims);
  if (at) return at;
  const value = (d: Dial): DialValue => {
    const own = trims[d.key];
    return own !== undefined && ofKind(d, own) ? held(d, own) : d.value;
  };
  const own = { ...look, dials: look.dials.map((d) => ({ ...d, value: value(d) })) };
  made.set(trims, own);
  return own;
}

/** Keys of trims that no dial of the look accepts. */
export const lostTrims = (look: LookDocument, trims: DialValues): string[] =>
  Object.keys(trims).filter(
    (key) => !look.dials.some((d) => d.key === key && ofKind(d, trims[key]!)),
  );

/** Trims with one set, or removed if no value is given. */
export function withTrim(trims: DialValues, dial: string, value?: DialValue): DialValues {
  const others = Object.entries(trims).filter(([key]) => key !== dial);
  return Object.fromEntries(value === undefined ? others : [...others, [dial, value]]);
}
