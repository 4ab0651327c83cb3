/**
 * Schema 4 has other words for a step and some parameters. What they mean, and every picture, stays:
 * ids of steps and parameters enter no picture.
 */
import { isPlain, list, type Plain } from './migrate-plain';

/** Steps and their new ids. */
const STEP_IDS: Readonly<Record<string, string>> = { solid: 'plain-colour' };
/** Parameters and their new ids, by step. */
const PARAMETER_IDS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'white-balance': { tint: 'green-magenta' },
  vignette: { roundness: 'rounder' },
  churn: { evolve: 'changes' },
  'noise-fill': { evolve: 'changes' },
};
const PLACEMENT_IDS: Readonly<Record<string, string>> = { anchor: 'turns-about' };

const renamed = (
  parameters: unknown,
  ids: Readonly<Record<string, string>> | undefined,
): unknown =>
  isPlain(parameters) && ids
    ? Object.fromEntries(Object.entries(parameters).map(([id, v]) => [ids[id] ?? id, v]))
    : parameters;

function stepOf(step: unknown): unknown {
  if (!isPlain(step)) return step;
  const id = String(step['step']);
  return {
    ...step,
    step: STEP_IDS[id] ?? step['step'],
    ...('parameters' in step && { parameters: renamed(step['parameters'], PARAMETER_IDS[id]) }),
  };
}
const layerOf = (layer: unknown): unknown =>
  isPlain(layer)
    ? {
        ...layer,
        steps: list(layer['steps']).map(stepOf),
        ...('placement' in layer && { placement: renamed(layer['placement'], PLACEMENT_IDS) }),
      }
    : layer;

/** Paths (`layer/step/parameter`) that lead elsewhere now, by what they were. */
function pathsOf(look: Plain): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  const layers = [look, ...list(look['groups'])].flatMap((of) =>
    isPlain(of) ? list(of['layers']) : [],
  );
  for (const layer of layers) {
    if (!isPlain(layer)) continue;
    const add = (owner: string, ids: Readonly<Record<string, string>> | undefined): void => {
      for (const [from, to] of Object.entries(ids ?? {}))
        found.set(
          `${String(layer['key'])}/${owner}/${from}`,
          `${String(layer['key'])}/${owner}/${to}`,
        );
    };
    add('+placement', PLACEMENT_IDS);
    for (const step of list(layer['steps']))
      if (isPlain(step)) add(String(step['key']), PARAMETER_IDS[String(step['step'])]);
  }
  return found;
}
/** A value with the paths in it replaced: of movers' targets, and of what follows another. */
function withPaths(value: unknown, paths: ReadonlyMap<string, string>): unknown {
  if (Array.isArray(value)) return value.map((v) => withPaths(v, paths));
  if (!isPlain(value)) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, v]) => [
      key,
      (key === 'path' || key === 'follows') && typeof v === 'string'
        ? (paths.get(v) ?? v)
        : withPaths(v, paths),
    ]),
  );
}

/** A look of schema 3 in the words of schema 4. Inner looks are documents of their own. */
export function inNewWords(look: Plain): Plain {
  const { looks, ...rest } = look;
  const paths = pathsOf(rest);
  const made = {
    ...rest,
    layers: list(rest['layers']).map(layerOf),
    ...(Array.isArray(rest['groups']) && {
      groups: rest['groups'].map((g: unknown) =>
        isPlain(g) ? { ...g, layers: list(g['layers']).map(layerOf) } : g,
      ),
    }),
  };
  return { ...(withPaths(made, paths) as Plain), ...(looks !== undefined && { looks }) };
}
