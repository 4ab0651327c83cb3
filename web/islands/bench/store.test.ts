import { beforeEach, describe, expect, it } from 'vitest';
import { edit, LOOK_SCHEMA, SHIPPED } from '../../../core';
import { storageOf } from '../../data/storage-of';
import { draftOf } from './drafts';
import { benchStore, isUnsaved, onlyDialsMoved } from './store';

const look = SHIPPED[0]!.look;
const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.assign(globalThis, { localStorage: storageOf(kept) });
});
const open = () => benchStore({ lookId: 'a', number: 1, saved: look }, look);
const bloom = (v: number) => edit.setDial(look, 'bloom', v);

describe("the Bench's history", () => {
  it('undoes a drag as one change, with its name', () => {
    const store = open();
    for (const v of [10, 20, 30]) store.getState().change('Bloom', bloom(v), 'drag');
    store.getState().endGesture();
    store.getState().change('Bloom', bloom(40), 'drag');
    expect(store.getState().past.map((p) => p.name)).toEqual(['Bloom', 'Bloom']);
    store.getState().undo();
    expect(store.getState().look).toEqual(bloom(30));
    store.getState().undo();
    expect(store.getState().look).toBe(look);
    store.getState().redo();
    expect(store.getState().look).toEqual(bloom(30));
  });

  it('forgets what could be redone once something new is done', () => {
    const store = open();
    store.getState().change('Bloom', bloom(1));
    store.getState().undo();
    store.getState().change('Bloom', bloom(2));
    expect(store.getState().future).toEqual([]);
  });
});

describe('drafts', () => {
  it('keep unsaved edits, and go when the look is as it was saved', () => {
    const store = open();
    store.getState().change('Bloom', bloom(5));
    expect(isUnsaved(store.getState())).toBe(true);
    expect(draftOf('a')).toEqual({ basedOn: 1, look: bloom(5) });
    store.getState().undo();
    expect(draftOf('a')).toBeNull();
  });

  it('of an earlier schema open as looks of this one', () => {
    const step = { key: 's', step: 'solid', on: true, mix: { value: 100 }, parameters: {} };
    const [layer] = bloom(5).layers;
    const old = { ...bloom(5), schema: 3, layers: [{ ...layer!, steps: [step] }] };
    localStorage.setItem('wabisabi-draft-b', JSON.stringify({ basedOn: 3, look: old }));
    expect(draftOf('b')).toMatchObject({
      basedOn: 3,
      look: { schema: LOOK_SCHEMA, layers: [{ steps: [{ step: 'plain-colour' }] }] },
    });
  });

  it('go when a version is saved', () => {
    const store = open();
    store.getState().change('Bloom', bloom(5));
    store.getState().savedAs(2, store.getState().look);
    expect(isUnsaved(store.getState())).toBe(false);
    expect(draftOf('a')).toBeNull();
    expect(store.getState().opened.number).toBe(2);
  });

  it('do not stop the Bench when the browser keeps nothing', () => {
    Object.assign(globalThis, {
      localStorage: {
        getItem() {
          throw new Error('closed');
        },
        setItem() {
          throw new Error('full');
        },
        removeItem() {
          throw new Error('closed');
        },
      },
    });
    expect(draftOf('a')).toBeNull();
    const store = open();
    store.getState().change('Bloom', bloom(5));
    expect(store.getState().look).toEqual(bloom(5));
  });
});

describe('two tabs with one look', () => {
  it('keep a draft each, and neither deletes the other’s', () => {
    const opened = { lookId: 'a', number: 1, saved: look };
    const [one, two] = [benchStore(opened, look, {}, 'one'), benchStore(opened, look, {}, 'two')];
    one.getState().change('Bloom', bloom(5));
    two.getState().change('Bloom', bloom(9));
    two.getState().undo();
    const open = new Set(['one', 'two']);
    expect(draftOf('a', 'one', open)?.look).toEqual(bloom(5));
    expect(draftOf('a', 'two', open)).toBeNull();
  });

  it('take over what a closed one left, and only then', () => {
    const left = benchStore({ lookId: 'a', number: 1, saved: look }, look, {}, 'closed');
    left.getState().change('Bloom', bloom(5));
    expect(draftOf('a', 'new', new Set(['new', 'closed']))).toBeNull();
    expect(draftOf('a', 'new', new Set(['new']))?.look).toEqual(bloom(5));
    expect(draftOf('a', 'other', new Set(['new', 'other']))).toBeNull();
  });
});

describe('what others do to trims', () => {
  it('stays when one’s own edits are undone and redone', () => {
    const store = benchStore({ lookId: 'a', number: 1, saved: look }, look, {});
    store.getState().change('Bloom', bloom(5));
    store.getState().trim('age of kelp', 'kelp', { age: 40 });
    // Somebody else trims another clip, and another dial of the same one.
    store.getState().heard({ kelp: { age: 40, bloom: 7 }, gulls: { age: 3 } });
    store.getState().undo();
    expect(store.getState().trims).toEqual({ kelp: { bloom: 7 }, gulls: { age: 3 } });
    store.getState().undo();
    expect(store.getState().look).toBe(look);
    expect(store.getState().trims).toEqual({ kelp: { bloom: 7 }, gulls: { age: 3 } });
    store.getState().redo();
    store.getState().redo();
    expect(store.getState().trims).toEqual({ kelp: { age: 40, bloom: 7 }, gulls: { age: 3 } });
  });

  it('a gesture over several clips is undone on all of them', () => {
    const store = benchStore({ lookId: 'a', number: 1, saved: look }, look, { b: { age: 1 } });
    store.getState().trim('drag', 'a', { age: 40 }, 'g');
    store.getState().trim('drag', 'b', { age: 40 }, 'g');
    store.getState().trim('drag', 'b', { age: 50 }, 'g');
    store.getState().undo();
    expect(store.getState().trims).toEqual({ b: { age: 1 } });
  });
});

describe('what stays while a dial moves', () => {
  const layer = look.layers[0]!.key;
  const silent = (l: typeof look) => edit.changeLayer(l, layer, { on: false });

  it('is the look but for where its dials stand', () => {
    const store = open();
    for (const v of [10, 20, 30]) store.getState().turn('Bloom', 'bloom', v, 'drag');
    expect(store.getState().look).toEqual(bloom(30));
    expect(store.getState().still).toBe(look);
    store.getState().change('off', silent);
    expect(store.getState().still).toBe(store.getState().look);
    expect(store.getState().still.layers[0]!.on).toBe(false);
  });

  it('follows undo and redo, and nothing that is done to it loses where the dials stand', () => {
    const store = open();
    store.getState().change('off', silent);
    store.getState().turn('Bloom', 'bloom', 30);
    store.getState().change('on', (now) => edit.changeLayer(now, layer, { on: true }));
    expect(store.getState().look).toEqual(bloom(30));
    store.getState().undo();
    expect(store.getState().still.layers[0]!.on).toBe(false);
    store.getState().undo();
    expect(store.getState().look).toEqual(silent(look));
    store.getState().undo();
    expect(store.getState().still).toBe(look);
    for (let i = 0; i < 3; i++) store.getState().redo();
    expect(store.getState().look).toEqual(bloom(30));
    expect(onlyDialsMoved(store.getState().look, store.getState().still)).toBe(true);
  });

  it('tells a dial that moved from one that changed otherwise, came, or went', () => {
    const [strength, first, ...rest] = look.dials;
    expect(onlyDialsMoved(bloom(3), look)).toBe(true);
    expect(
      onlyDialsMoved({ ...look, dials: [strength!, { ...first!, label: 'Halo' }, ...rest] }, look),
    ).toBe(false);
    expect(
      onlyDialsMoved(
        edit.setGoal(look, first!.key, { of: 'bright', is: 'above', value: 90 }),
        look,
      ),
    ).toBe(false);
    expect(onlyDialsMoved({ ...look, dials: [strength!, ...rest] }, look)).toBe(false);
    expect(onlyDialsMoved({ ...look, dials: [first!, strength!, ...rest] }, look)).toBe(false);
    expect(onlyDialsMoved({ ...look, seed: look.seed + 1 }, look)).toBe(false);
    const { frame: _, ...unframed } = {
      ...look,
      frame: { shape: [1, 1] as [number, number], lies: 'bars' as const, rounded: 0 },
    };
    expect(
      onlyDialsMoved({ ...unframed, frame: { shape: [1, 1], lies: 'bars', rounded: 0 } }, look),
    ).toBe(false);
    expect(onlyDialsMoved(unframed, look)).toBe(true);
  });
});
