import { describe, expect, it } from 'vitest';
import { beyondBounds, inWords, readLook, shippedLook } from '.';

const nested = (depth: number): unknown => {
  let v: unknown = 1;
  for (let i = 0; i < depth; i++) v = [v];
  return v;
};

describe('documents from outside', () => {
  it('are refused when they are too deep, too many, or an object has too many keys; looks are none of it', () => {
    expect(beyondBounds(nested(20))).toBeUndefined();
    expect(beyondBounds(nested(100_000))).toMatch(/24 deep/);
    expect(beyondBounds(Array.from({ length: 500_000 }, () => 1))).toMatch(/400000 values/);
    expect(
      beyondBounds(Object.fromEntries(Array.from({ length: 2000 }, (_, i) => [i, 1]))),
    ).toMatch(/2000 keys/);
    expect(beyondBounds({ a: ['b\0'] })).toMatch(/NUL/);
    expect(beyondBounds(shippedLook('soft-lens'))).toBeUndefined();
  });
  it('a look of a million keys, or as deep as one likes, is refused in words, and not after minutes', () => {
    const soft = shippedLook('soft-lens')!;
    const parameters = Object.fromEntries(
      Array.from({ length: 1_000_000 }, (_, i) => [`p${i}`, { value: 1 }]),
    );
    const [layer, ...rest] = soft.layers;
    const wide = {
      ...soft,
      layers: [{ ...layer, steps: [{ ...layer!.steps[0], parameters }] }, ...rest],
    };
    for (const look of [wide, { ...soft, frame: nested(50_000) }]) {
      const read = readLook(look);
      expect('faults' in read && inWords(read.faults)).toMatch(/keys|deep/);
    }
  });
});
