import { describe, expect, it } from 'vitest';
import { beyondBounds, inWords, isTooDeep, readLook, shippedLook } from '.';

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
      beyondBounds(Object.fromEntries(Array.from({ length: 30_000 }, (_, i) => [i, 1]))),
    ).toMatch(/30000 keys/);
    expect(beyondBounds({ a: ['b\0'] })).toMatch(/NUL/);
    expect(beyondBounds(shippedLook('soft-lens'))).toBeUndefined();
  });
  it('are refused with half a character, or a key that every object has', () => {
    expect(beyondBounds({ a: 'x\ud800' })).toMatch(/lone surrogate/);
    expect(beyondBounds({ 'x\udc00': 1 })).toMatch(/lone surrogate/);
    expect(beyondBounds({ a: '🌊' })).toBeUndefined();
    expect(beyondBounds({ trims: { constructor: {} } })).toMatch(/"constructor", which is no name/);
    expect(beyondBounds(JSON.parse('{"__proto__":{"a":1}}'))).toMatch(/no name/);
  });
  it('that are nested to the brim are refused before they are read into values', () => {
    expect(isTooDeep('['.repeat(12_000_000))).toBe(true);
    expect(isTooDeep(JSON.stringify(nested(24)))).toBe(false);
    expect(isTooDeep(JSON.stringify(nested(30)))).toBe(true);
    expect(isTooDeep(JSON.stringify({ a: '[[[[[[[[[[[[[[[[[[[[[[[[[[[[[["' }))).toBe(false);
    expect(isTooDeep(JSON.stringify(shippedLook('soft-lens')))).toBe(false);
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
