/** Trims: a clip's own values for dials of the look it wears. */
import type { Dial, LookDocument } from './document';
import type { DialValue, DialValues } from './document';

/** Whether a value suits a dial as far as its kind goes. */
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
 * The look as a clip wears it: dials stand at the clip's own values, held to the dial's range. A
 * trim whose dial has gone, or is of another kind now, does nothing. The same look and trims give
 * the same document.
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

/** Trims that find no dial of their kind in the look (any more). */
export const lostTrims = (look: LookDocument, trims: DialValues): string[] =>
  Object.keys(trims).filter(
    (key) => !look.dials.some((d) => d.key === key && ofKind(d, trims[key]!)),
  );

/** Trims with one set, or (without a value) cleared. */
export function withTrim(trims: DialValues, dial: string, value?: DialValue): DialValues {
  const others = Object.entries(trims).filter(([key]) => key !== dial);
  return Object.fromEntries(value === undefined ? others : [...others, [dial, value]]);
}
