/**
 * Changes to what a look shows of itself: its dials and their goals, the pins it asks for, what it
 * suits.
 */
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

/** The flags it raises on purpose. */
export const setMeans = (look: LookDocument, means: readonly Meanable[]): LookDocument => {
  const { means: _, ...plain } = look;
  return means.length > 0 ? { ...plain, means: [...means] } : plain;
};
export const setDial = (look: LookDocument, key: string, value: DialValue): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => (d.key === key ? { ...d, value } : d)),
});
/** Sets a dial's goal, or takes it off. */
export const setGoal = (look: LookDocument, key: string, goal: Goal | undefined): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => {
    if (d.key !== key) return d;
    const { goal: _, ...plain } = d;
    return goal ? { ...plain, goal } : plain;
  }),
});
/** Adds a pin that is asked for, under a key of its own. */
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
export const changePin = (
  look: LookDocument,
  key: string,
  change: Partial<Pick<PinAsk, 'label' | 'many'>>,
): LookDocument => ({
  ...look,
  pins: (look.pins ?? []).map((p) => (p.key === key ? { ...p, ...change } : p)),
});
/**
 * Asks for a pin no longer, unless a look within asks for it; what was bound to it stands at the
 * centre.
 */
export function removePin(look: LookDocument, key: string): LookDocument {
  if (isAskedWithin(look, key)) return look;
  const { pins, ...plain } = look;
  const left = (pins ?? []).filter((p) => p.key !== key);
  const without: LookDocument = left.length > 0 ? { ...plain, pins: left } : plain;
  // An instant that counted from it counts from the clip's start.
  const counted = mapInstants(without, (at) => {
    if (at.cue !== key) return at;
    const { cue: _, which: __, ...kept } = at;
    return { ...kept, from: 'start' };
  });
  return mapLayers(counted, (l) => pruneReferences(counted, l));
}
export const setSuits = (look: LookDocument, suits: readonly Suit[]): LookDocument => {
  const { suits: _, ...plain } = look;
  return suits.length > 0 ? { ...plain, suits: [...suits] } : plain;
};
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

/** Puts a dial so many places further to the end; strength stays the first. */
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
 * Lets a number dial end where it stands: it goes no lower (or no higher) than now. Every value
 * that is left gives the picture that it gave, so trims within hold; those beyond are held at the
 * end. Unchanged where nothing would be left of it.
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

/** Takes a dial off; what it drove keeps the value it has. */
export function removeDial(
  look: LookDocument,
  key: string,
  valueOf: (s: Setting) => ParameterValue,
): LookDocument {
  const free = (s: Setting): Setting => ('dial' in s && s.dial === key ? { value: valueOf(s) } : s);
  const loose = mapSettings(look, free);
  return withoutLostTargets({ ...loose, dials: loose.dials.filter((d) => d.key !== key) });
}
