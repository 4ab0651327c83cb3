import { describe, expect, it } from 'vitest';
import { blur, leaf } from '../image';
import { each, operation, type Picturing } from '../plan/graph';
import { Engine } from '.';
import { randomPlanes } from './comparing';

const sum = (a: Picturing, b: Picturing): Picturing =>
  operation({
    shape: 'sum',
    inputs: [each(a), each(b)],
    planes: 3,
    domain: 'light',
    build: (x) => x.pixel(0).map((v, i) => v.add(x.pixel(1)[i]!)),
  });
const picture = (): Picturing => leaf(randomPlanes(3, 96, 54, 5), 96, 54, 'light');

describe('a graph that was planned twice', () => {
  it('is computed once, and comes out the same', () => {
    const engine = new Engine({ limit: 1 << 26, helpers: 0 });
    const one = blur(picture(), 12);
    const shared = engine.memory.plane(engine.compute(sum(one, one)), 0).slice();
    const kernels = engine.tally.computed;
    const twice = engine.memory.plane(engine.compute(sum(blur(picture(), 12), blur(picture(), 12))), 0).slice();
    expect(engine.tally.computed).toBe(kernels);
    expect(twice).toEqual(shared);
  });
});
