import { describe, expect, it } from 'vitest';
import { edit, resolve, SHIPPED } from '../../../core';
import { beforeFrom, beforeText } from './comparison';
import { KEYS } from './shortcut-list';
import { targetsOf, valuesOf } from './useTrials';

describe('a sheet of trials', () => {
  it('offers each number dial once, and each number parameter that no dial drives', () => {
    for (const { look } of SHIPPED) {
      const targets = targetsOf(look);
      expect(new Set(targets.map((t) => t.id)).size).toBe(targets.length);
      expect(targets.filter((t) => t.dial !== null).map((t) => t.dial)).toEqual(
        look.dials.filter((d) => d.kind === 'number').map((d) => d.key),
      );
      for (const t of targets) {
        expect(t.least).toBeLessThanOrEqual(t.soft[0]);
        expect(t.soft[0]).toBeLessThan(t.soft[1]);
        expect(t.soft[1]).toBeLessThanOrEqual(t.most);
        if (t.dial !== null) continue;
        const [layer, step, parameter] = t.id.split('/') as [string, string, string];
        const setting = edit.layerOf(look, layer)!.steps.find((s) => s.key === step)!.parameters[
          parameter
        ];
        expect(setting === undefined || !('dial' in setting)).toBe(true);
      }
    }
  });

  it('sets what it is of, and nothing else', () => {
    const { look } = SHIPPED[0]!;
    for (const t of targetsOf(look)) {
      const at = (t.soft[0] + t.soft[1]) / 2;
      const set = t.set(look, at);
      if (t.dial !== null) {
        expect(set.dials.find((d) => d.key === t.dial)!.value).toBe(at);
        expect(set.layers).toEqual(look.layers);
      } else {
        const [layer, step, parameter] = t.id.split('/') as [string, string, string];
        expect(
          resolve(
            set,
            edit.layerOf(set, layer)!.steps.find((s) => s.key === step)!.parameters[parameter]!,
            {},
          ),
        ).toBe(at);
        expect(set.dials).toEqual(look.dials);
      }
      expect(t.set(set, at)).toEqual(set);
    }
  });

  it('goes from one end of a range to the other in even steps, as many digits as the range has use for', () => {
    expect(valuesOf({ target: 'a', from: 0, to: 100 }, 5)).toEqual([0, 25, 50, 75, 100]);
    expect(valuesOf({ target: 'a', from: 1, to: -1 }, 3)).toEqual([1, 0, -1]);
    expect(valuesOf({ target: 'a', from: 0, to: 1 }, 4)).toEqual([0, 0.333, 0.667, 1]);
    expect(valuesOf({ target: 'a', from: 0.001, to: 0.002 }, 3)).toEqual([0.001, 0.0015, 0.002]);
    expect(valuesOf({ target: 'a', from: 7, to: 7 }, 3)).toEqual([7, 7, 7]);
  });
});

describe('what before is', () => {
  it('reads what it writes, and what cannot be is the clip as shot', () => {
    for (const b of [
      { kind: 'shot' },
      { kind: 'balanced' },
      { kind: 'version', id: 'v1' },
      { kind: 'reference', id: 'r1' },
    ] as const)
      expect(beforeFrom(beforeText(b))).toEqual(b);
    for (const text of ['', 'version', 'version:', 'other:1'])
      expect(beforeFrom(text)).toEqual({ kind: 'shot' });
  });
});

describe('shortcuts', () => {
  it('are each given once, with words, and take none of the browser’s own', () => {
    expect(new Set(KEYS.map(([id]) => id)).size).toBe(KEYS.length);
    expect(new Set(KEYS.map(([, shown]) => shown)).size).toBe(KEYS.length);
    for (const [, , words] of KEYS) expect(words.length).toBeGreaterThan(2);
    const browser = [
      'mod+r',
      'mod+t',
      'mod+w',
      'mod+n',
      'mod+l',
      'mod+f',
      'mod+p',
      'mod+s',
      'mod+d',
      'mod+h',
      'mod+j',
      'f5',
    ];
    for (const [id] of KEYS) expect(browser).not.toContain(id);
  });
});
