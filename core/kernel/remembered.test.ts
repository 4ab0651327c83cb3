import { describe, expect, it } from 'vitest';
import { Remembered } from '.';

describe('what is remembered', () => {
  it('is made once for a key', () => {
    const all = new Remembered<number>(4);
    let made = 0;
    const of = (key: string): number => all.of(key, () => ++made);
    expect([of('a'), of('b'), of('a')]).toEqual([1, 2, 1]);
  });

  it('goes when it was not asked for longest', () => {
    const all = new Remembered<number>(2);
    let made = 0;
    const of = (key: string): number => all.of(key, () => ++made);
    of('a');
    of('b');
    of('a');
    of('c');
    // b was dropped; a had been used since.
    expect([of('a'), of('c'), of('b')]).toEqual([1, 3, 4]);
  });

  it('keeps nothing where making it fails', () => {
    const all = new Remembered<number>(2);
    expect(() =>
      all.of('a', () => {
        throw new Error('no');
      }),
    ).toThrow('no');
    expect(all.of('a', () => 7)).toBe(7);
  });
});
