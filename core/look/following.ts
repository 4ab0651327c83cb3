/** Links between parameters: what they lead to, and the value they give. */
import { cosTurnsd, sinTurnsd } from '../kernel';
import { matteOf } from '../mattes';
import { oklabToRgb, type Colour, type Parameter, type ParameterValue } from '../parameters';
import { stepOf } from '../steps';
import type { Link, LookDocument, MatteUse, Setting } from './document';
import { allLayers } from './settings';

/** The parameter at a path (`layer/step/parameter`), and its setting. */
export function followed(
  look: LookDocument,
  path: string,
): { readonly parameter: Parameter; readonly setting: Setting } | undefined {
  const [layer, key, id] = path.split('/');
  const use = allLayers(look)
    .find((l) => l.key === layer)
    ?.steps.find((s) => s.key === key);
  const parameter = use && stepOf(use.step)?.parameters.find((p) => p.id === id);
  return (
    parameter && {
      parameter,
      setting: use.parameters[parameter.id] ?? { value: parameter.default },
    }
  );
}

/** The matte at a path (`layer/matte` or `layer/step/matte`). */
export function matteAt(look: LookDocument, path: string): MatteUse | undefined {
  const [layer, ...rest] = path.split('/');
  const own = allLayers(look).find((l) => l.key === layer);
  const mattes =
    rest.length === 1 ? own?.mattes : own?.steps.find((s) => s.key === rest[0])?.mattes;
  return mattes?.find((m) => m.key === rest.at(-1));
}
/** The same, if its centre follows from its parameters. */
export function matteWithCentre(look: LookDocument, path: string): MatteUse | undefined {
  const found = matteAt(look, path);
  return found && matteOf(found.matte)?.centre ? found : undefined;
}
/** A matte's owner (`layer` or `layer/step`). */
export const ownerOf = (path: string): string => path.slice(0, path.lastIndexOf('/'));

/**
 * The chain of mattes whose centres depend on one another, starting with the given one; it ends
 * where there is no more, or where one repeats.
 */
export function centresFrom(look: LookDocument, path: string): string[] {
  const seen: string[] = [];
  for (let at: string | undefined = path; at !== undefined;) {
    const again = seen.includes(at);
    seen.push(at);
    if (again) break;
    const next: Setting | undefined = Object.values(
      matteWithCentre(look, at)?.parameters ?? {},
    ).find((s) => 'centre' in s);
    at = next && 'centre' in next ? next.centre : undefined;
  }
  return seen;
}

/** Whether a chain of links returns to its start. */
export function hasCycle(look: LookDocument, path: string): boolean {
  const seen = new Set<string>([path]);
  for (
    let at = followed(look, path);
    at && 'follows' in at.setting;
    at = followed(look, at.setting.follows)
  ) {
    if (seen.has(at.setting.follows)) return true;
    seen.add(at.setting.follows);
  }
  return false;
}

/** A colour mixed towards black or white, encoded. */
const shaded = (c: Colour, by: number): Colour =>
  c.map((v) => (by < 0 ? v * (1 + by / 100) : v + (1 - v) * (by / 100))) as unknown as Colour;
/** A colour with its hue rotated about the grey axis, luma kept (Rodrigues's rotation). */
function hueTurned(c: Colour, degrees: number): Colour {
  if (degrees === 0) return c;
  const [cos, sin] = [cosTurnsd(degrees / 360), sinTurnsd(degrees / 360)];
  const mean = (c[0] + c[1] + c[2]) / 3,
    k = sin / Math.sqrt(3);
  const cross = [c[2] - c[1], c[0] - c[2], c[1] - c[0]];
  return c.map((v, i) => v * cos + cross[i]! * k + mean * (1 - cos)) as unknown as Colour;
}

/** The value of a linked parameter with its offset, or its shade and hue. */
export function offsetFrom(
  value: ParameterValue,
  { offset = 0, shade = 0, hue = 0 }: Link,
): ParameterValue {
  if (typeof value === 'number') return value + offset;
  return Array.isArray(value) && value.length === 3
    ? shaded(hueTurned(value as unknown as Colour, hue), shade)
    : value;
}

/**
 * The colour that contrasts with a clip: Oklab's hue opposite to the mean of its colours, at a
 * fixed lightness and chroma.
 */
export function standingOut(
  main: { readonly magenta: number; readonly warmth: number } | undefined,
): Colour {
  const { magenta: a, warmth: b } = main ?? { magenta: 0, warmth: -1 };
  const size = Math.sqrt(a * a + b * b);
  // For a clip without a hue: the opposite of blue.
  const [ua, ub] = size < 1e-3 ? [0, 1] : [-a / size, -b / size];
  return oklabToRgb([0.78, ua * 0.14, ub * 0.14]).map(
    (v) => Math.round(Math.max(0, Math.min(1, v)) * 1e4) / 1e4,
  ) as unknown as Colour;
}
