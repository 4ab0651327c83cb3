/** What the time shelf shows of a look on a clip: spans, events, curves; and how its keys move. */
import { beforeEach, describe, expect, it } from 'vitest';
import { edit, emptyLook, type LookDocument, type Mover, SHIPPED } from '../../../core';
import { A_MINUTE } from '../../../core/testing';
import type { HeroFacts } from './context';
import { benchStore } from './store';
import { curveOf, eventsOf, keyAct, onHero, spansOf, targetWords } from './time-lanes';

const hero = {
  id: 'c1',
  hash: 'a'.repeat(64),
  aspect: 16 / 9,
  frames: A_MINUTE.frames,
  rate: A_MINUTE.rate,
  pins: {},
  inOut: null,
  retime: null,
} as unknown as HeroFacts;
const moving = SHIPPED.map((s) => s.look).filter((l) => (l.movers ?? []).length > 0);

beforeEach(() => {
  Object.assign(globalThis, {
    localStorage: { getItem: () => null, setItem: () => {}, removeItem: () => {} },
  });
});

describe('spans', () => {
  it('of a look without any are none', () => {
    expect(spansOf(emptyLook('Plain'), A_MINUTE)).toEqual([]);
  });

  it('are those of the look, of its layers and of its steps, each within the clip', () => {
    const { look } = SHIPPED.find(({ look }) => look.layers.some((l) => l.steps.length > 0))!;
    const layer = look.layers.find((l) => l.steps.length > 0)!;
    const span = { from: { from: 'start' }, to: { from: 'end' } } as never;
    const spanned = {
      ...look,
      span,
      layers: [{ ...layer, span, steps: [{ ...layer.steps[0]!, span }] }],
      groups: [],
    } as LookDocument;
    const lanes = spansOf(spanned, A_MINUTE);
    expect(lanes.map((l) => l.of)).toEqual([
      {},
      { layer: layer.key },
      { layer: layer.key, step: layer.steps[0]!.key },
    ]);
    expect(lanes[0]!.name).toBe('the look');
    for (const { first, last } of lanes) {
      expect(first).toBeGreaterThanOrEqual(0);
      expect(last).toBeLessThanOrEqual(A_MINUTE.frames - 1);
      expect(first).toBeLessThanOrEqual(last);
    }
  });
});

describe('what moves', () => {
  it('is told by its first target and how many more there are', () => {
    for (const look of moving)
      for (const m of look.movers!) {
        const words = targetWords(look, m);
        if (m.targets.length > 1)
          expect(words).toMatch(new RegExp(`and ${m.targets.length - 1} more$`));
        expect(words).not.toBe('');
      }
    const none = { ...moving[0]!.movers![0]!, targets: [] } as Mover;
    expect(targetWords(moving[0]!, none)).toBe('nothing');
  });

  it('has its events in order, and the same each time', () => {
    for (const look of moving)
      for (const m of look.movers!) {
        const events = eventsOf(look, m, onHero(hero, A_MINUTE));
        expect(events).toEqual([...events].sort((a, b) => a - b));
        expect(eventsOf(look, m, onHero(hero, A_MINUTE))).toEqual(events);
      }
  });

  it('has a value at every frame, where it moves a number', () => {
    const short = { ...A_MINUTE, frames: 60 };
    let seen = 0;
    for (const look of moving)
      for (const m of look.movers!) {
        const curve = curveOf(look, m, hero, short);
        if (!curve) continue;
        seen++;
        expect(curve.values).toHaveLength(60);
        expect(curve.values.every(Number.isFinite)).toBe(true);
      }
    expect(seen).toBeGreaterThan(10);
  });
});

describe('keys of the shelf', () => {
  const { look } = SHIPPED.find(({ look }) =>
    look.layers.some((l) => l.steps.some((s) => s.step === 'exposure' || s.step === 'glow')),
  )!;
  /** A store with a keyed mover selected; it records where the playhead is sent. */
  const shelf = () => {
    const layer = look.layers.find((l) => l.steps.length > 0)!;
    const moved = edit.addMover({ ...look, movers: [] }, 'keys', `${layer.key}/opacity`),
      { key } = moved.movers![0]!;
    const store = benchStore({ lookId: 'l', number: 1, saved: moved }, moved);
    store.getState().show({ mover: key });
    const sought: number[] = [];
    const act = (frame: number, what: Parameters<typeof keyAct>[4]): void =>
      keyAct(store, hero, frame, (f) => sought.push(f), what);
    const keys = (): number[] => {
      const { look: now } = store.getState();
      const mover = now.movers!.find((m) => m.key === key)!;
      return edit.keysOnClip(now, mover, A_MINUTE).map((k) => k.frame);
    };
    return { act, keys, sought, store };
  };

  it('set, find, move and take away keys at the playhead', () => {
    const { act, keys, sought } = shelf();
    const before = keys();
    act(100, 'set');
    act(200, 'set');
    expect(keys()).toEqual([...before, 100, 200].sort((a, b) => a - b));
    act(150, 'next');
    act(150, 'previous');
    expect(sought).toEqual([200, 100]);
    act(100, 'later');
    expect(keys()).toContain(101);
    expect(sought.at(-1)).toBe(101);
    act(101, 'remove');
    expect(keys()).not.toContain(101);
  });

  it('do nothing where there is nothing to do it with', () => {
    const { act, keys, sought, store } = shelf();
    act(100, 'set');
    const now = keys();
    act(300, 'remove');
    act(300, 'earlier');
    act(1499, 'next');
    expect(keys()).toEqual(now);
    expect(sought).toEqual([]);
    store.getState().show({ mover: null });
    act(300, 'set');
    expect(keys()).toEqual(now);
  });
});
