/** Runs in the browser: steps and kernels by WebGL2, held to the double reference. */
import { GlslEngine } from '../../core/engine';
import { leafOf, randomPlanes, referenceOf } from '../../core/testing';
import { blur, inDomain } from '../../core/image';
import {
  cosTurns,
  cube,
  exp2,
  fetch,
  hash,
  log2,
  pow,
  reduce,
  row,
  sample,
  type SampleEdge,
  select,
  sinTurns,
  toFloat,
  toInt,
  unit,
  column,
} from '../../core/kernel';
import { centreOfCover, coverOf, matteParameters, MATTES } from '../../core/mattes';
import { stencil, pointwise, imageOp, type ImageOp, type ImageNode } from '../../core/graph';
import { blend, BLEND_IDS, place, PLACEMENT } from '../../core/compositing';
import { inTarget, lookFrame } from '../../core/clip';
import { withDefaults } from '../../core/parameters';
import { lowerStep, STEPS } from '../../core/steps';
import { anyValues, onSmallRaster } from '../../core/testing';

export interface Compared {
  readonly name: string;
  /** The largest |Δ| ÷ max(1, |value|), and the share of numbers where it is above 1/1024. */
  readonly most: number;
  readonly share: number;
}

const gl = new OffscreenCanvas(8, 8).getContext('webgl2');
if (!gl) throw new Error('this browser has no WebGL2');
const engine = new GlslEngine(gl, 2 ** 28);

function compared(name: string, root: ImageNode): Compared {
  const image = engine.compute(root);
  const found = engine.planes(image);
  const reference = referenceOf(root, 'double');
  let most = 0,
    off = 0;
  found.planes.forEach((plane, p) =>
    plane.forEach((v, i) => {
      const r = reference.planes[p]![i]!;
      const error = Math.abs(v - r) / Math.max(1, Math.abs(r));
      if (!(error <= most)) most = error;
      if (!(error <= 1 / 1024)) off++;
    }),
  );
  return { name, most, share: off / (found.planes.length * image.width * image.height) };
}

/**
 * Every step at values from anywhere, on numbers from −0.5 to 4. What reads at other places is
 * given a softer picture: a place in single precision is exact to some thousandths of a pixel, and
 * from one random pixel to the next that is much.
 */
const steps = (width: number, height: number, planes: number): Compared[] =>
  STEPS.map((step) => {
    const at = {
      frame: 7,
      seconds: 7 / 25,
      rate: [25, 1] as const,
      seed: 0x1234567,
      width,
      height,
    };
    if (step.family === 'tape' && step.id !== 'channel-drift')
      return compared(step.id, onSmallRaster(step, at, 9));
    const sharp = leafOf(
      randomPlanes(planes, width, height, 11 + planes),
      width,
      height,
      step.domain,
    );
    const input = step.family === 'warp' ? blur(sharp, 4) : sharp;
    return compared(
      step.id,
      inDomain(lowerStep(step, input, anyValues(step, 9), 1, at), 'encoded'),
    );
  });

/** The language's own operations, each with every edge rule where it has one. */
function kernels(width: number, height: number): Compared[] {
  const picture = leafOf(randomPlanes(3, width, height, 5), width, height, 'none');
  const of = (shape: string, build: ImageOp['build'], window = true): Compared =>
    compared(
      shape,
      imageOp({
        shape,
        inputs: [window ? stencil(picture) : pointwise(picture)],
        planes: 3,
        domain: 'none',
        params: [0.37, -1.25, 0.9],
        ints: [width, height, 5],
        tables: [
          {
            key: 'a-cube',
            layout: { kind: 'cube', n: 4 },
            colours: Float32Array.from({ length: 192 }, (_, i) => ((i * 37) % 101) / 101),
          },
        ],
        build,
      }),
    );
  const edges: SampleEdge[] = ['clear', 'clamp', 'repeat', 'mirror'];
  return [
    ...edges.map((edge) =>
      of(`sample ${edge}`, (b) => {
        const x = toFloat(column())
          .mul(1.7)
          .sub(toFloat(b.int(0)).mul(0.4));
        const y = toFloat(row())
          .mul(-1.3)
          .add(toFloat(b.int(1)).mul(1.2));
        return [0, 1, 2].map((p) =>
          sample(b.image(0), p, x.add(b.param(0)), y, b.int(0), b.int(1), edge),
        );
      }),
    ),
    ...(['clear', 'clamp'] as const).flatMap((edge) =>
      (['same', 'double', 'half'] as const).map((s) =>
        of(`tap ${edge} ${s}`, (b) =>
          [-2, 0, 3].map((d) => b.tap(0, 1, d, -d, { edge, sx: s, sy: s })),
        ),
      ),
    ),
    of('functions', (b) => [
      exp2(b.tap(0, 0, 0, 0)),
      log2(b.tap(0, 1, 0, 0).abs().add(0.01)),
      pow(b.tap(0, 2, 0, 0).max(0), b.param(2)),
    ]),
    of('turns', (b) => [
      sinTurns(b.tap(0, 0, 0, 0)),
      cosTurns(b.tap(0, 1, 0, 0)),
      b.tap(0, 2, 0, 0).max(0).sqrt(),
    ]),
    of(
      'hash',
      (b) => [
        unit(hash(column(), row())),
        unit(hash(b.int(2), column())),
        unit(hash(toInt(b.tap(0, 0, 0, 0).mul(1024)), row())),
      ],
      true,
    ),
    of('reduce', (b) => {
      const [sum, least] = reduce(b.int(2), [0, 9], (turn, [total, low]) => {
        const [inner] = reduce(turn, [0], (t, [s]) => [s!.add(toFloat(t))]);
        const v = fetch(b.image(0), 0, column(), row()).add(toFloat(turn).mul(b.param(0)));
        return [total!.add(v).add(inner!), low!.min(v)];
      }) as [ReturnType<typeof toFloat>, ReturnType<typeof toFloat>];
      return [sum, least, sum.mul(least)];
    }),
    of('cube', (b) => cube(0, 4, b.pixel(0)), false),
    of(
      'select',
      (b) => b.pixel(0).map((v) => select(v.lt(0.5).or(v.eq(2)).not(), v, v.neg().floor())),
      false,
    ),
  ];
}

/** Every kind of matte, every blend mode, and a placed picture by every edge rule. */
function composites(width: number, height: number): Compared[] {
  const picture = (planes: number, seed: number, domain: 'light' | 'encoded' = 'light') =>
    leafOf(
      randomPlanes(planes, width, height, seed).map((p) => p.map((v) => Math.abs(v) / 4)),
      width,
      height,
      domain,
    );
  const at = {
    frame: 3,
    seconds: 3 / 25,
    rate: [25, 1] as const,
    seed: 5,
    width,
    height,
    clip: picture(3, 1),
    below: picture(3, 2),
    layer: picture(4, 3),
  };
  const mattes = MATTES.map((kind) => {
    const values = [anyValues({ parameters: matteParameters(kind) }, 2)];
    return compared(
      `matte ${kind.id}`,
      coverOf([{ kind, combine: 'or', invert: false, values, named: picture(4, 9) }], at)!,
    );
  });
  const modes = BLEND_IDS.map((id) =>
    compared(`blend ${id}`, blend(id, picture(4, 5, 'encoded'), picture(4, 6, 'encoded'), 0.7)),
  );
  const placed = (['clear', 'clamp', 'repeat', 'mirror'] as const).map((edge) => {
    const values = withDefaults(
      { parameters: PLACEMENT },
      { edge, turn: 23, 'scale-x': 70, 'scale-y': -45, position: [0.4, 0.6] },
    );
    return compared(`placed ${edge}`, inDomain(place(blur(picture(3, 8), 3), values), 'encoded'));
  });
  const cover = coverOf(
    [
      {
        kind: MATTES[0]!,
        combine: 'or',
        invert: false,
        values: [withDefaults({ parameters: matteParameters(MATTES[0]!) }, {})],
      },
    ],
    at,
  )!;
  const middle = centreOfCover(cover);
  const follows = place(
    blur(picture(3, 8), 3),
    withDefaults({ parameters: PLACEMENT }, { 'scale-x': 60, 'scale-y': 60 }),
    middle,
  );
  const framed = lookFrame(
    { shape: [4, 3], lies: 'bars', rounded: 90 },
    { width: width * 2, height },
  )!;
  const small = blur(picture(3, 8), 3);
  const square = inTarget(small, {
    ...framed,
    width,
    height,
    x: (framed.target.width - width) / 2,
    y: 0,
  });
  return [
    ...mattes,
    ...modes,
    ...placed,
    compared('middle of a matte', middle),
    compared('placed at a middle', inDomain(follows, 'encoded')),
    compared('in a frame', inDomain(square, 'encoded')),
  ];
}

Object.assign(globalThis, { glsl: { steps, kernels, composites } });
