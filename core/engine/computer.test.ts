import { describe, expect, it } from 'vitest';
import { Engine } from '.';
import { pointwise, imageOp, type ImageNode } from '../graph';
import { blur, leaf } from '../image';
import { randomPlanes } from '../testing';

const sum = (a: ImageNode, b: ImageNode): ImageNode =>
  imageOp({
    shape: 'sum',
    inputs: [pointwise(a), pointwise(b)],
    planes: 3,
    domain: 'light',
    build: (x) => x.pixel(0).map((v, i) => v.add(x.pixel(1)[i]!)),
  });
const picture = (): ImageNode => leaf(randomPlanes(3, 96, 54, 5), 96, 54, 'light');

const doubled = (a: ImageNode): ImageNode =>
  imageOp({
    shape: 'doubled',
    inputs: [pointwise(a)],
    planes: 3,
    domain: 'light',
    build: (x) => x.pixel(0).map((v) => v.mul(2)),
  });

describe('several pictures that are asked for at once', () => {
  it('are all there at the end, also one that the others were made from', () => {
    const engine = new Engine({ limit: 1 << 26, helpers: 0 });
    const first = doubled(picture());
    const wanted = [
      first,
      doubled(first),
      ...[1, 2, 3, 4].map((s) => doubled(leaf(randomPlanes(3, 96, 54, s), 96, 54, 'light'))),
    ];
    const together = engine
      .computeAll(wanted)
      .map((image) => engine.memory.plane(image, 0).slice());
    const alone = wanted.map((p) => engine.memory.plane(engine.compute(p), 0).slice());
    together.forEach((plane, i) => expect(plane).toEqual(alone[i]));
  });
});

describe('a graph that was planned twice', () => {
  it('is computed once, and comes out the same', () => {
    const engine = new Engine({ limit: 1 << 26, helpers: 0 });
    const one = blur(picture(), 12);
    const shared = engine.memory.plane(engine.compute(sum(one, one)), 0).slice();
    const kernels = engine.tally.computed;
    const twice = engine.memory
      .plane(engine.compute(sum(blur(picture(), 12), blur(picture(), 12))), 0)
      .slice();
    expect(engine.tally.computed).toBe(kernels);
    expect(twice).toEqual(shared);
  });
});
