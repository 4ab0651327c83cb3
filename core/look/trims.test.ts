import { describe, expect, it } from 'vitest';
import { edit, lostTrims, readLook, SHIPPED, withTrims, withTrim } from '.';

const look = SHIPPED.find((s) => s.id === 'soft-lens')!.look;
const valueOf = (l: typeof look, key: string) => l.dials.find((d) => d.key === key)!.value;

describe('trims', () => {
  it('stand in for the look’s own values of their dials, and leave the look as it was', () => {
    const before = JSON.stringify(look);
    const own = withTrims(look, { bloom: 12, grain: false });
    expect([valueOf(own, 'bloom'), valueOf(own, 'grain'), valueOf(own, 'age')]).toEqual([
      12,
      false,
      valueOf(look, 'age'),
    ]);
    expect(JSON.stringify(look)).toBe(before);
    expect('look' in readLook(JSON.parse(JSON.stringify(own)))).toBe(true);
  });
  it('give the same document for the same look and trims, and the look itself where there are none', () => {
    const trims = { bloom: 12 };
    expect(withTrims(look, trims)).toBe(withTrims(look, trims));
    expect(withTrims(look, undefined)).toBe(look);
    expect(withTrims(look, { gone: 3 })).toBe(look);
  });
  it('survive a version in which their dial has gone, has another kind or a narrower range', () => {
    const gone = edit.removeDial(look, 'bloom', () => 0);
    expect(withTrims(gone, { bloom: 90, age: 10 }).dials.map((d) => d.key)).not.toContain('bloom');
    expect(lostTrims(gone, { bloom: 90, age: 10 })).toEqual(['bloom']);
    expect(lostTrims(look, { bloom: true })).toEqual(['bloom']);
    expect(valueOf(withTrims(look, { bloom: true }), 'bloom')).toBe(valueOf(look, 'bloom'));
    const narrow = {
      ...look,
      dials: look.dials.map((d) => (d.key === 'bloom' ? { ...d, max: 50 } : d)),
    };
    expect(valueOf(withTrims(narrow, { bloom: 90 }), 'bloom')).toBe(50);
  });
  it('are set and cleared one by one', () => {
    expect(withTrim({ age: 1 }, 'bloom', 2)).toEqual({ age: 1, bloom: 2 });
    expect(withTrim({ age: 1, bloom: 2 }, 'age')).toEqual({ bloom: 2 });
  });
});
