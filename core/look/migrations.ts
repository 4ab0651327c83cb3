/**
 * Migrations of look documents from earlier schemas. Each step says what changed and why the
 * pictures stay the same.
 */
import { LOOK_SCHEMA } from './document';
import { isPlain, list, type Plain } from './migrate-plain';
import { inNewWords } from './migrate-words';

/** A setting with all of its numbers multiplied: of a constant, or the ends of a dial's range. */
function scaled(setting: unknown, by: number): unknown {
  if (!isPlain(setting)) return setting;
  const number = (v: unknown): unknown => (typeof v === 'number' ? v * by : v);
  return Object.fromEntries(
    Object.entries(setting).map(([k, v]) => [
      k,
      ['value', 'from', 'to', 'offset'].includes(k) ? number(v) : v,
    ]),
  );
}

/**
 * Micrometres per line on the widest 8 mm picture at 16:9; dye cloud size of the daylight negative.
 */
const MICRONS = 4500 / 1920,
  CLOUDS = 5.8;
/**
 * Schema 1 had grain in per cent of its own range and its size in lines. Schema 2 has a stock's
 * granularity and a gauge. Strength and size stay about the same, at the narrowest gauge.
 */
function grainByStock(step: Plain): Plain {
  const { amount, size, colour, ...rest } = isPlain(step['parameters']) ? step['parameters'] : {};
  const lines = isPlain(size) && typeof size['value'] === 'number' ? size['value'] : 3.5;
  return {
    ...step,
    parameters: {
      ...rest,
      ...(amount !== undefined && { amount: scaled(amount, 26 * (lines / 4)) }),
      ...(colour !== undefined && { colour }),
      gauge: { value: 'eight-large' },
      clouds: {
        value: Math.min(1000, Math.max(25, Math.round(((lines * MICRONS) / CLOUDS) * 100))),
      },
    },
  };
}

function eachStep(look: Plain, change: (step: Plain) => Plain): Plain {
  const layers = (all: unknown): unknown =>
    Array.isArray(all)
      ? all.map((l: unknown) =>
          isPlain(l)
            ? { ...l, steps: list(l['steps']).map((s) => (isPlain(s) ? change(s) : s)) }
            : l,
        )
      : all;
  return {
    ...look,
    layers: layers(look['layers']),
    ...(Array.isArray(look['groups']) && {
      groups: look['groups'].map((g: unknown) =>
        isPlain(g) ? { ...g, layers: layers(g['layers']) } : g,
      ),
    }),
  };
}

/** From each schema to the next. */
const STEPS: Readonly<Record<number, (look: Plain) => Plain>> = {
  1: (look) => eachStep(look, (s) => (s['step'] === 'grain' ? grainByStock(s) : s)),
  // Schema 3 adds movers, spans and layer time. A document without them has the same meaning.
  2: (look) => look,
  3: inNewWords,
};

/**
 * A document in the current schema. Anything that is no document of an earlier schema is returned
 * as it is.
 */
export function upToDate<T>(json: T): T {
  let look: unknown = json;
  while (
    isPlain(look) &&
    typeof look['schema'] === 'number' &&
    look['schema'] < LOOK_SCHEMA &&
    STEPS[look['schema']]
  )
    look = { ...STEPS[look['schema']]!(look), schema: look['schema'] + 1 };
  if (!isPlain(look) || !Array.isArray(look['looks'])) return look as T;
  // Inner looks are documents of their own.
  return {
    ...look,
    looks: look['looks'].map((l: unknown) =>
      isPlain(l) ? { ...l, document: upToDate(l['document']) } : l,
    ),
  } as T;
}
