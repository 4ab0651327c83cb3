import { beforeEach, describe, expect, it } from 'vitest';
import { edit, SHIPPED } from '../../../core';
import { benchStore, draftOf, isUnsaved } from './store';

const look = SHIPPED[0]!.look;
const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.assign(globalThis, {
    localStorage: {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => void kept.set(k, v),
      removeItem: (k: string) => void kept.delete(k),
    },
  });
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
