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
   * Largest difference from the look itself at points between the cube's entries, in code values
   * (0…1).
   */
  readonly largestError: number;
}

/**
 * Test points between a cube's entries: evenly spread colours (additive recurrence, Roberts 2018),
 * and greys.
 */
function probes(): Float32Array[] {
  const count = 4096,
    greys = 257;
  return [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map((step) =>
    Float32Array.from({ length: count + greys }, (_, i) =>
      i < count ? (0.5 + i * step) % 1 : (i - count) / (greys - 1),
    ),
  );
}

function grid(n: number): Float32Array[] {
  const of = (pick: (i: number) => number) =>
    Float32Array.from({ length: n * n * n }, (_, i) => pick(i) / (n - 1));
  return [of((i) => i % n), of((i) => Math.floor(i / n) % n), of((i) => Math.floor(i / n / n))];
}

/** Largest difference between a cube and the function it stands for, at the test points. */
function errorOf(
  colours: Float32Array,
  n: number,
  truth: readonly ArrayLike<number>[],
  at: readonly Float32Array[],
): number {
  const table = { layout: { kind: 'cube', n }, colours } as const;
  let most = 0;
  for (let i = 0; i < at[0]!.length; i++) {
    const place = at.map((p) => p[i]!);
    for (let c = 0; c < 3; c++)
      most = Math.max(most, Math.abs(tetrahedral(table, place, c) - truth[c]![i]!));
  }
  return most;
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
  const over = (at: readonly Float32Array[]): Float32Array[] => {
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
    return [0, 1, 2].map((p) => engine.memory.plane(image, p));
  };
  const colours = together(over(grid(size)));
  return {
    cube: cubeValue(look.name, '3d', size, colours),
    colours,
    largestError: errorOf(colours, size, over(probes()), probes()),
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
