import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OutOfMemory } from './computer';
import { FIRST_FREE, Memory } from './memory';

describe('memory', () => {
  it('never lends the same bytes twice, and takes all back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 5000 }), fc.boolean()), { maxLength: 120 }),
        (steps) => {
          const memory = new Memory(1 << 24);
          const lent: { at: number; size: number }[] = [];
          for (const [size, back] of steps) {
            if (back && lent.length > 0) {
              const [gone] = lent.splice(size % lent.length, 1);
              memory.release(gone!.at, gone!.size);
            } else {
              const at = memory.allocate(size);
              lent.forEach((l) => expect(at + size <= l.at || l.at + l.size <= at).toBe(true));
              lent.push({ at, size });
            }
          }
          lent.forEach((l) => memory.release(l.at, l.size));
          expect(memory.allocate(1)).toBe(FIRST_FREE);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is warmed to its limit without touching what is lent', () => {
    const memory = new Memory(1 << 22);
    const at = memory.allocate(300_000);
    memory.floats(at, 75_000).fill(3);
    while (memory.warm(1 << 18));
    expect(memory.floats(at, 75_000).every((v) => v === 3)).toBe(true);
    expect(memory.wasm.buffer.byteLength).toBe(1 << 22);
    memory.allocate((1 << 22) - FIRST_FREE - 300_032);
    expect(() => memory.allocate(64)).toThrow(OutOfMemory);
  });

  it('says when there is no room', () => {
    const memory = new Memory(FIRST_FREE + 100_000);
    memory.allocate(90_000);
    expect(() => memory.allocate(20_000)).toThrow(OutOfMemory);
  });

  it('keeps rows apart by whole vectors', () => {
    const memory = new Memory(1 << 22);
    const image = memory.image(5, 3, 3);
    expect(image.stride).toBe(32);
    memory.row(image, 2, 1).fill(7);
    expect([...memory.plane(image, 2)]).toEqual([0, 0, 0, 0, 0, 7, 7, 7, 7, 7, 0, 0, 0, 0, 0]);
  });
});
