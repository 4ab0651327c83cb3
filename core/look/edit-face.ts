/** Edits of what a look presents: dials and their goals, the pins it asks for, and suitability. */
import type { ParameterValue } from '../parameters';
import { pruneReferences, freshKey } from './prune';
import {
  type Dial,
  type Goal,
  type LookDocument,
  type Meanable,
  type PinAsk,
  type Setting,
  STRENGTH,
  type Suit,
} from './document';
import type { DialValue } from './document';
import { withoutLostTargets } from './edit-time';
import { isAskedWithin } from './inner';
import { mapInstants, mapLayers, mapSettings } from './settings';

/** Sets the flags that it raises on purpose. */
export const setMeans = (look: LookDocument, means: readonly Meanable[]): LookDocument => {
  const { means: _, ...plain } = look;
  return means.length > 0 ? { ...plain, means: [...means] } : plain;
};
/** Sets a dial's value. */
export const setDial = (look: LookDocument, key: string, value: DialValue): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => (d.key === key ? { ...d, value } : d)),
});
/** Sets or removes a dial's goal. */
export const setGoal = (look: LookDocument, key: string, goal: Goal | undefined): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => {
    if (d.key !== key) return d;
    const { goal: _, ...plain } = d;
    return goal ? { ...plain, goal } : plain;
  }),
});
/** Adds a pin, under a fresh key. */
export const addPin = (look: LookDocument, pin: PinAsk): LookDocument => {
  const pins = look.pins ?? [];
  return {
    ...look,
    pins: [
      ...pins,
      {
        ...pin,
        key: freshKey(
          pin.key,
          pins.map((p) => p.key),
        ),
      },
    ],
  };
};
/** Changes a pin's label, whether it may be set several times, or what becomes of it while lost. */
export const changePin = (
  look: LookDocument,
  key: string,
  change: Partial<Omit<PinAsk, 'key' | 'kind'>>,
): LookDocument => ({
  ...look,
  pins: (look.pins ?? []).map((p) => (p.key === key ? { ...p, ...change } : p)),
});
/** Removes a pin, unless an inner look asks for it. Settings bound to it move to the centre. */
export function removePin(look: LookDocument, key: string): LookDocument {
  if (isAskedWithin(look, key)) return look;
  const { pins, ...plain } = look;
  const left = (pins ?? []).filter((p) => p.key !== key);
  const without: LookDocument = left.length > 0 ? { ...plain, pins: left } : plain;
  // Instants that count from it count from the clip's start instead.
  const counted = mapInstants(without, (at) => {
    if (at.cue !== key) return at;
    const { cue: _, which: __, ...kept } = at;
    return { ...kept, from: 'start' };
  });
  return mapLayers(counted, (l) => pruneReferences(counted, l));
}
/** Sets the suitability tests. */
export const setSuits = (look: LookDocument, suits: readonly Suit[]): LookDocument => {
  const { suits: _, ...plain } = look;
  return suits.length > 0 ? { ...plain, suits: [...suits] } : plain;
};
/** Adds a dial, under a fresh key. */
export const addDial = (look: LookDocument, dial: Dial): LookDocument => ({
  ...look,
  dials: [
    ...look.dials,
    {
      ...dial,
      key: freshKey(
        dial.key,
        look.dials.map((d) => d.key),
      ),
    },
  ],
});

/** Moves a dial by a number of places; strength stays first. */
export function moveDial(look: LookDocument, key: string, by: number): LookDocument {
  const [strength, others] = [
    look.dials.filter((d) => d.key === STRENGTH),
    look.dials.filter((d) => d.key !== STRENGTH),
  ];
  const from = others.findIndex((d) => d.key === key),
    to = Math.max(0, Math.min(others.length - 1, from + by));
  if (from < 0 || from === to) return look;
  const [moved] = others.splice(from, 1);
  others.splice(to, 0, moved!);
  return { ...look, dials: [...strength, ...others] };
}

/**
 * Ends a number dial's range at its current value, at the lower or the upper end. Every remaining
 * value gives the same picture as before, so trims inside the range keep their meaning; those
 * outside are clamped. Unchanged if nothing would remain of the range.
 */
export function endDialHere(look: LookDocument, key: string, end: 'least' | 'most'): LookDocument {
  const dial = look.dials.find((d) => d.key === key);
  if (!dial || dial.kind !== 'number' || typeof dial.value !== 'number') return look;
  const [min, max] = [dial.min!, dial.max!],
    at = dial.value;
  if (end === 'least' ? at >= max || at === min : at <= min || at === max) return look;
  const share = (at - min) / (max - min);
  const ended = mapSettings(look, (s) => {
    if (!('dial' in s) || s.dial !== key || s.from === undefined || s.to === undefined) return s;
    const there = s.from + share * (s.to - s.from);
    return end === 'least' ? { ...s, from: there } : { ...s, to: there };
  });
  return {
    ...ended,
    dials: ended.dials.map((d) =>
      d.key === key ? { ...d, ...(end === 'least' ? { min: at } : { max: at }) } : d,
    ),
  };
}

/** Removes a dial. Parameters it drove keep their current values. */
export function removeDial(
  look: LookDocument,
  key: string,
  valueOf: (s: Setting) => ParameterValue,
): LookDocument {
  const free = (s: Setting): Setting => ('dial' in s && s.dial === key ? { value: valueOf(s) } : s);
  const loose = mapSettings(look, free);
  return withoutLostTargets({ ...loose, dials: loose.dials.filter((d) => d.key !== key) });
}
