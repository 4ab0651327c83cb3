/** Changes to what a look shows of itself: its dials and their goals, the pins it asks for, what it suits. */
import type { ParameterValue } from '../parameters';
import { pruneReferences, freshKey } from './prune';
import type { Dial, Goal, LookDocument, Meanable, PinAsk, Setting, Suit } from './document';
import type { DialValue } from './document';
import { withoutLostTargets } from './edit-time';
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
export const changePin = (look: LookDocument, key: string, change: Partial<Pick<PinAsk, 'label' | 'many'>>): LookDocument => ({
  ...look,
  pins: (look.pins ?? []).map((p) => (p.key === key ? { ...p, ...change } : p)),
});
/** Asks for a pin no longer; what was bound to it stands at the centre. */
export function removePin(look: LookDocument, key: string): LookDocument {
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

/** Takes a dial off; what it drove keeps the value it has. */
export function removeDial(look: LookDocument, key: string, valueOf: (s: Setting) => ParameterValue): LookDocument {
  const free = (s: Setting): Setting => ('dial' in s && s.dial === key ? { value: valueOf(s) } : s);
  const loose = mapSettings(look, free);
  return withoutLostTargets({ ...loose, dials: loose.dials.filter((d) => d.key !== key) });
}
