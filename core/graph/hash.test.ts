/** Keys and seeds: the same for the same input, different for any other. */
import { describe, expect, it } from 'vitest';
import { Hasher, seedOf } from '.';

/** The hash as first written: four lanes one after the other. */
function reference(ints: readonly number[]): string {
  const primes = [0x9e3779b1, 0x85ebca77, 0xc2b2ae3d, 0x27d4eb2f];
  const lanes = new Int32Array([0x243f6a88, 0x85a308d3 | 0, 0x13198a2e, 0x03707344]);
  for (const v of [...ints, 0x5bd1e995, 0x1b873593])
    for (let i = 0; i < 4; i++) {
      let h = Math.imul(lanes[i]! ^ v, primes[i]!);
      h = (h << (13 + i)) | (h >>> (19 - i));
      lanes[i] = (Math.imul(h, primes[(i + 1) & 3]!) + lanes[(i + 1) & 3]!) | 0;
    }
  return [...lanes].map((v) => (v >>> 0).toString(16).padStart(8, '0')).join('');
}

describe('a content hash', () => {
  it('is that of its definition', () => {
    for (const ints of [[], [0], [1, 2, 3], [-1, 0x7fffffff, 0x80000000 | 0], Array(50).fill(9)]) {
      const h = new Hasher();
      ints.forEach((v) => h.int(v as number));
      expect(h.hex()).toBe(reference(ints as number[]));
    }
  });

  it('tells numbers apart by the bits that a kernel sees', () => {
    const of = (v: number): string => new Hasher().float(v).hex();
    expect(of(0.1)).toBe(of(Math.fround(0.1)));
    expect(of(0)).not.toBe(of(-0));
    expect(of(1)).not.toBe(of(1 + 2 ** -23));
  });

  it('tells words apart by where they end', () => {
    const of = (...words: string[]): string => {
      const h = new Hasher();
      words.forEach((w) => h.text(w));
      return h.hex();
    };
    expect(of('ab', 'c')).not.toBe(of('a', 'bc'));
    expect(of('')).not.toBe(of());
  });

  it('does not meet itself among a hundred thousand', () => {
    const seen = new Set<string>();
    for (let i = 0; i < 100_000; i++) seen.add(new Hasher().int(i).hex());
    expect(seen.size).toBe(100_000);
  });

  it('makes seeds of names in their order', () => {
    expect(seedOf('look', 'layer', 3)).toBe(seedOf('look', 'layer', '3'));
    expect(seedOf('look', 'layer')).not.toBe(seedOf('layer', 'look'));
    expect(Number.isInteger(seedOf('x'))).toBe(true);
  });
});
