/** Changes to a look document, each a new document: what the Bench does and undoes. */
import { CENTRE, type ParameterValue, type Step } from '../steps';
import type { Dial, Goal, Layer, LookDocument, PinAsk, Setting, StepUse, Suit } from './document';
import type { DialValue } from './resolve';

/** `base`, or `base-2`, `base-3` … if it is taken. */
export function freshKey(base: string, taken: readonly string[]): string {
  const plain =
    base
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 32) || 'layer';
  if (!taken.includes(plain)) return plain;
  let n = 2;
  while (taken.includes(`${plain}-${n}`)) n++;
  return `${plain}-${n}`;
}

const layers = (look: LookDocument, f: (l: Layer[]) => Layer[]): LookDocument => ({ ...look, layers: f(look.layers) });
const inLayer = (look: LookDocument, key: string, f: (l: Layer) => Layer): LookDocument =>
  layers(look, (all) => all.map((l) => (l.key === key ? f(l) : l)));
const inStep = (look: LookDocument, layer: string, step: string, f: (s: StepUse) => StepUse): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, steps: l.steps.map((s) => (s.key === step ? f(s) : s)) }));
const moved = <T>(list: readonly T[], from: number, to: number): T[] => {
  const out = [...list];
  out.splice(to, 0, ...out.splice(from, 1));
  return out;
};

export const newStep = (step: Step, taken: readonly string[]): StepUse => ({
  key: freshKey(step.id, taken),
  step: step.id,
  on: true,
  mix: { value: 100 },
  parameters: {},
});
export const newLayer = (name: string, source: Layer['source'], taken: readonly string[], steps: StepUse[] = []): Layer => ({
  key: freshKey(name, taken),
  name,
  on: true,
  source,
  blend: 'normal',
  opacity: { value: 100 },
  steps,
});

/** Adds a layer above `above` (or at the top), under a key of its own; dials it names that the look lacks become constants. */
export function addLayer(look: LookDocument, layer: Layer, above?: string): LookDocument {
  const fresh = {
    ...detached(look, layer),
    key: freshKey(
      layer.key,
      look.layers.map((l) => l.key),
    ),
  };
  const at = above === undefined ? look.layers.length : look.layers.findIndex((l) => l.key === above) + 1;
  return layers(look, (all) => [...all.slice(0, at), fresh, ...all.slice(at)]);
}

function detachedSetting(look: LookDocument, s: Setting): Setting {
  if ('pin' in s) return look.pins?.some((p) => p.key === s.pin) ? s : { value: CENTRE };
  return 'value' in s || look.dials.some((d) => d.key === s.dial) ? s : { value: ((s.from ?? 0) + (s.to ?? 0)) / 2 };
}
function detachedStep(look: LookDocument, s: StepUse): StepUse {
  const parameters = Object.fromEntries(
    Object.entries(s.parameters)
      .filter(([, v]) => !('dial' in v) || v.from !== undefined || look.dials.some((d) => d.key === v.dial))
      .map(([id, v]) => [id, detachedSetting(look, v)]),
  );
  return { ...s, mix: detachedSetting(look, s.mix), parameters };
}
const detached = (look: LookDocument, l: Layer): Layer => ({
  ...l,
  opacity: detachedSetting(look, l.opacity),
  steps: l.steps.map((s) => detachedStep(look, s)),
});

export function addStep(look: LookDocument, layer: string, step: StepUse): LookDocument {
  return inLayer(look, layer, (l) => ({
    ...l,
    steps: [
      ...l.steps,
      {
        ...detachedStep(look, step),
        key: freshKey(
          step.step,
          l.steps.map((s) => s.key),
        ),
      },
    ],
  }));
}
export const duplicateLayer = (look: LookDocument, key: string): LookDocument => {
  const layer = look.layers.find((l) => l.key === key);
  return layer ? addLayer(look, { ...layer, name: `${layer.name} copy` }, key) : look;
};
export const removeLayer = (look: LookDocument, key: string): LookDocument => layers(look, (all) => all.filter((l) => l.key !== key));
export const moveLayer = (look: LookDocument, key: string, to: number): LookDocument =>
  layers(look, (all) =>
    moved(
      all,
      all.findIndex((l) => l.key === key),
      to,
    ),
  );
export const changeLayer = (look: LookDocument, key: string, change: Partial<Omit<Layer, 'key' | 'steps'>>): LookDocument =>
  inLayer(look, key, (l) => ({ ...l, ...change }));
export const removeStep = (look: LookDocument, layer: string, step: string): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, steps: l.steps.filter((s) => s.key !== step) }));
export const moveStep = (look: LookDocument, layer: string, step: string, to: number): LookDocument =>
  inLayer(look, layer, (l) => ({
    ...l,
    steps: moved(
      l.steps,
      l.steps.findIndex((s) => s.key === step),
      to,
    ),
  }));
export const changeStep = (look: LookDocument, layer: string, step: string, change: Partial<Pick<StepUse, 'on' | 'mix'>>): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, ...change }));
export const setParameter = (look: LookDocument, layer: string, step: string, id: string, setting: Setting): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, parameters: { ...s.parameters, [id]: setting } }));
export const setConstant = (look: LookDocument, layer: string, step: string, id: string, value: ParameterValue): LookDocument =>
  setParameter(look, layer, step, id, { value });
export const resetParameter = (look: LookDocument, layer: string, step: string, id: string): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, parameters: Object.fromEntries(Object.entries(s.parameters).filter(([k]) => k !== id)) }));
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
  const free = (s: Setting): Setting => ('pin' in s && s.pin === key ? { value: CENTRE } : s);
  const loose = layers(look, (all) =>
    all.map((l) => ({
      ...l,
      steps: l.steps.map((s) => ({ ...s, parameters: Object.fromEntries(Object.entries(s.parameters).map(([id, v]) => [id, free(v)])) })),
    })),
  );
  const { pins: _, ...plain } = loose;
  const left = (look.pins ?? []).filter((p) => p.key !== key);
  return left.length > 0 ? { ...plain, pins: left } : plain;
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
  const loose = layers(look, (all) =>
    all.map((l) => ({
      ...l,
      opacity: free(l.opacity),
      steps: l.steps.map((s) => ({
        ...s,
        mix: free(s.mix),
        parameters: Object.fromEntries(Object.entries(s.parameters).map(([id, v]) => [id, free(v)])),
      })),
    })),
  );
  return { ...loose, dials: loose.dials.filter((d) => d.key !== key) };
}
