/**
 * Bakes a look, or a chain of colour functions, into one cube, and reports the largest error of it.
 */
import type { ClipTime } from '../time';
import { clear } from '../compositing';
import { Engine, expressions, groupOf } from '../engine';
import type { ImageNode } from '../graph';
import { codesToLight, type EncodingId, leaf, toCodes } from '../image';
import { building, inOrder, type Node, tetrahedral } from '../kernel';
import {
  isTimelessLook,
  type DialValues,
  type LookDocument,
  needsStatistics,
  resolveLayer,
  still,
} from '../look';
import { cubeValue, type CubeValue } from '../parameters';
import { plan } from '../plan';
import { lowerStep, isRamp, stepOf } from '../steps';

/** A baked look. */
export interface Baked {
  readonly cube: CubeValue;
  readonly colours: Float32Array;
  /**
   * The largest difference from the look itself that was found between the cube's entries, in code
   * values (0…1), and the number of places at which it was looked for. No bound: it may be larger
   * between them.
   */
  readonly largestError: number;
  readonly places: number;
}

/** Steps of evenly spread places in three dimensions (additive recurrence, Roberts 2018). */
const SPREAD = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703] as const;
/** Evenly spread colours and greys, at which a cube is compared with the look first. */
const FIRST = 120_000,
  GREYS = 1025;
/**
 * Then about the worst of them, within a distance in cells that shrinks from round to round: the
 * largest error lies near the bends of a look, which few of evenly spread places meet.
 */
const WORST = 200,
  ABOUT = 60,
  ROUNDS = [1, 0.5, 0.2, 0.08] as const;

type Places = readonly Float32Array[];
const firstPlaces = (): Places =>
  SPREAD.map((step) =>
    Float32Array.from({ length: FIRST + GREYS }, (_, i) =>
      i < FIRST ? (0.5 + i * step) % 1 : (i - FIRST) / (GREYS - 1),
    ),
  );
/** Places about some others, up to `far` away in each direction. */
function placesAbout(places: Places, which: readonly number[], far: number): Places {
  return SPREAD.map((step, c) =>
    Float32Array.from({ length: which.length * ABOUT }, (_, i) => {
      const off = ((0.5 + i * step) % 1) * 2 - 1;
      return Math.max(0, Math.min(1, places[c]![which[Math.floor(i / ABOUT)]!]! + off * far));
    }),
  );
}

function grid(n: number): Float32Array[] {
  const of = (pick: (i: number) => number) =>
    Float32Array.from({ length: n * n * n }, (_, i) => pick(i) / (n - 1));
  return [of((i) => i % n), of((i) => Math.floor(i / n) % n), of((i) => Math.floor(i / n / n))];
}

/** The difference between a cube and the function it stands for, at each place. */
function errorsAt(
  colours: Float32Array,
  n: number,
  truth: readonly ArrayLike<number>[],
  at: Places,
): Float32Array {
  const table = { layout: { kind: 'cube', n }, colours } as const;
  return Float32Array.from({ length: at[0]!.length }, (_, i) => {
    const place = at.map((p) => p[i]!);
    let most = 0;
    for (let c = 0; c < 3; c++)
      most = Math.max(most, Math.abs(tetrahedral(table, place, c) - truth[c]![i]!));
    return most;
  });
}

/** The largest difference that was found, and at how many places it was looked for. */
function largestFound(
  colours: Float32Array,
  n: number,
  over: (at: Places) => readonly ArrayLike<number>[],
): { readonly largestError: number; readonly places: number } {
  let at = firstPlaces(),
    errors = errorsAt(colours, n, over(at), at);
  let largestError = errors.reduce((a, b) => Math.max(a, b), 0),
    places = errors.length;
  for (const cells of ROUNDS) {
    const worst = [...errors.keys()].sort((a, b) => errors[b]! - errors[a]!).slice(0, WORST);
    at = placesAbout(at, worst, cells / (n - 1));
    errors = errorsAt(colours, n, over(at), at);
    places += errors.length;
    largestError = errors.reduce((a, b) => Math.max(a, b), largestError);
  }
  return { largestError, places };
}

const together = (planes: readonly ArrayLike<number>[]): Float32Array =>
  Float32Array.from(
    { length: planes[0]!.length * 3 },
    (_, i) => planes[i % 3]![Math.floor(i / 3)]!,
  );

/** What to bake a look to. */
export interface BakeOptions {
  readonly size: number;
  /** Encodings of the cube's input and output. */
  readonly takes: EncodingId;
  readonly gives: EncodingId;
  readonly dials?: DialValues;
}

/** The time of a look that can be baked: it is the same at every frame. */
const STILL: ClipTime = { frames: 1, rate: [1, 1], cues: {} };

/** A look as a cube of `size` entries a side. Throws if it cannot be baked (see `notBakeable`). */
export function bake(look: LookDocument, { size, takes, gives, dials = {} }: BakeOptions): Baked {
  const not = notBakeable(look, dials);
  if (not.length > 0) throw new Error(`cannot be baked: ${not.join(', ')}`);
  const engine = new Engine({ limit: 2 ** 29, helpers: 0 });
  const over = (at: Places): Float32Array[] => {
    const codes = leaf(at, at[0]!.length, 1, 'none');
    const { result } = plan(
      look,
      {
        bedrock: codesToLight(codes, takes),
        content: 'bake',
        frame: 0,
        time: STILL,
        encoding: takes,
      },
      dials,
    );
    const image = engine.compute(toCodes(result, gives));
    return [0, 1, 2].map((p) => engine.memory.plane(image, p).slice());
  };
  const colours = together(over(grid(size)));
  return {
    cube: cubeValue(look.name, '3d', size, colours),
    colours,
    ...largestFound(colours, size, over),
  };
}

const PLACES = new Set<Node['op']>(['ix', 'iy', 'tap', 'fetch']);

/** Whether anything between a result and its inputs depends on positions or neighbours. */
function looksAround(result: ImageNode, from: readonly ImageNode[]): boolean {
  const seen = new Set<ImageNode>(from);
  const visit = (n: ImageNode): boolean => {
    if (seen.has(n) || isRamp(n)) return false;
    // Numbers from elsewhere (a drawn path, letters) vary by place.
    if (n.kind === 'leaf') return true;
    seen.add(n);
    if (n.inputs.some((i) => i.window && !isRamp(i.from))) return true;
    const placed = building(() =>
      inOrder(
        expressions(groupOf(n, new Set<ImageNode>([n, ...n.inputs.map((i) => i.from)]))),
      ).some((e) => PLACES.has(e.op)),
    );
    return placed || n.inputs.some((i) => visit(i.from));
  };
  return visit(result);
}

/**
 * Steps of a look that depend on more than a pixel's own colour, as "layer: step"; empty if the
 * look can be baked.
 */
export function notBakeable(look: LookDocument, dials: DialValues = {}): string[] {
  // Large enough that no effect fades for being finer than a pixel. Nothing is computed at this
  // size.
  const [width, height] = [7680, 4320];
  const some = leaf([[], [], []], width, height, 'light', 'baking');
  const frame = [
    ...(look.frame ? ['its frame'] : []),
    ...(isTimelessLook(look) ? [] : ['what moves in it']),
  ];
  const layers = look.layers.flatMap((written) => {
    const layer = resolveLayer(look, written, still(dials));
    if (!layer.on || layer.opacity === 0) return [];
    const from = layer.source === 'fill' ? clear(width, height) : some;
    const steps = layer.steps
      .filter(
        (use) =>
          use.on &&
          use.mix > 0 &&
          looksAround(
            lowerStep(stepOf(use.step)!, from, use.values, use.mix, {
              frame: 0,
              seconds: 0,
              rate: STILL.rate,
              seed: 1,
              width,
              height,
            }),
            [from],
          ),
      )
      .map((use) => `${written.name}: ${stepOf(use.step)!.label}`);
    if (layer.source === 'shot' || layer.source === 'recorded')
      return [...steps, `${written.name}: the clip before its balance`];
    if (layer.source === 'footage') return [...steps, `${written.name}: other footage`];
    if (needsStatistics({ ...look, layers: [written], groups: [] }))
      return [...steps, `${written.name}: what is measured of each clip`];
    if (steps.length > 0) return steps;
    const alone = plan(
      { ...look, layers: [written] },
      { bedrock: some, content: 'bake', frame: 0, time: STILL },
      dials,
    ).result;
    if (!looksAround(alone, [some])) return [];
    return [
      `${written.name}: its ${layer.mattes.length > 0 ? 'mattes' : layer.placement ? 'placement' : 'group'}`,
    ];
  });
  return [...frame, ...layers];
}
