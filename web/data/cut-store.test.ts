/** The cut of a page: history, and its way to the server. */
import { beforeEach, afterEach, describe, expect, it, vi } from 'vitest';
import { type CutDocument, emptyCut } from '../../core';
import { cutStore } from './cut-store';
import { Refused } from './http';

const view = { document: emptyCut(), revision: 3 };
const withRow = (c: CutDocument, name: string): CutDocument => ({
  ...c,
  rows: [...c.rows, { key: `row-${c.rows.length}`, name, places: [] }],
});
const named = (name: string) => (c: CutDocument) => withRow(c, name);
const names = (store: ReturnType<typeof cutStore>) =>
  store.getState().document.rows.map((r) => r.name);

const kept = new Map<string, string>();
beforeEach(() => {
  vi.useFakeTimers();
  kept.clear();
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
    removeItem: (k: string) => kept.delete(k),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const saving = () => {
  let revision = view.revision;
  return vi.fn((body: { revision: number }, _lasting: boolean) => {
    if (body.revision !== revision)
      return Promise.reject(
        new Refused(409, 'changed', { now: { document: emptyCut(), revision } }),
      );
    return Promise.resolve({ revision: ++revision });
  });
};

describe('history', () => {
  it('undoes by name, and a gesture as one step', () => {
    const store = cutStore('p', view, saving());
    const { edit, endGesture, undo, redo } = store.getState();
    edit('one', named('a'));
    edit('drag', named('b'), 'g1');
    edit('drag', named('c'), 'g1');
    endGesture();
    edit('drag', named('d'), 'g1');
    expect(store.getState().past.map((s) => s.name)).toEqual(['one', 'drag', 'drag']);
    undo();
    expect(names(store)).toEqual(['', 'a', 'b', 'c']);
    undo();
    expect(names(store)).toEqual(['', 'a']);
    redo();
    expect(names(store)).toEqual(['', 'a', 'b', 'c']);
    edit('other', named('e'));
    expect(store.getState().future).toEqual([]);
  });
  it('counts no change that changes nothing', () => {
    const store = cutStore('p', view, saving());
    store.getState().edit('nothing', (c) => c);
    expect(store.getState().past).toEqual([]);
  });
});

describe('saving', () => {
  it('sends edits together a moment later, each on the revision before', async () => {
    const save = saving(),
      store = cutStore('p', view, save);
    store.getState().edit('one', named('a'));
    store.getState().edit('two', named('b'));
    expect(store.getState().kept).toBe('saving');
    await vi.advanceTimersByTimeAsync(400);
    expect(save).toHaveBeenCalledTimes(1);
    expect(store.getState().kept).toBe('saved');
    store.getState().edit('three', named('c'));
    await store.getState().flush(true);
    expect(save.mock.calls.map(([b, lasting]) => [b.revision, lasting])).toEqual([
      [3, false],
      [4, true],
    ]);
  });
  it('keeps what the server does not have, and tries again', async () => {
    let away = true;
    const save = vi.fn(() =>
      away
        ? Promise.reject(new Refused(0, 'away'))
        : Promise.resolve({ revision: view.revision + 1 }),
    );
    const store = cutStore('p', view, save);
    store.getState().edit('one', named('a'));
    await vi.advanceTimersByTimeAsync(400);
    expect(store.getState().kept).toBe('kept here');
    expect(kept.size).toBe(1);
    away = false;
    await vi.advanceTimersByTimeAsync(3100);
    expect(store.getState().kept).toBe('saved');
    expect(kept.size).toBe(0);
  });
  it('goes on with what an earlier visit left', async () => {
    const first = cutStore('p', view, () => Promise.reject(new Refused(0, 'away')));
    first.getState().edit('one', named('left'));
    await vi.advanceTimersByTimeAsync(200);
    const save = saving(),
      again = cutStore('p', view, save);
    expect(names(again)).toEqual(['', 'left']);
    await vi.advanceTimersByTimeAsync(10);
    expect(save).toHaveBeenCalled();
    expect(again.getState().kept).toBe('saved');
  });
  it('shows both where somebody else was first, and lets choose', async () => {
    const theirs = { document: withRow(emptyCut(), 'theirs'), revision: 9 };
    const save = vi.fn((b: { revision: number }) =>
      b.revision === 9
        ? Promise.resolve({ revision: 10 })
        : Promise.reject(new Refused(409, 'changed', { now: theirs })),
    );
    const mine = cutStore('p', view, save);
    mine.getState().edit('one', named('mine'));
    await vi.advanceTimersByTimeAsync(400);
    expect(mine.getState().theirs).toEqual(theirs);
    expect(names(mine)).toEqual(['', 'mine']);
    mine.getState().settle('mine');
    await vi.advanceTimersByTimeAsync(400);
    expect(mine.getState().kept).toBe('saved');

    const other = cutStore('q', view, save);
    other.getState().edit('one', named('mine'));
    await vi.advanceTimersByTimeAsync(400);
    other.getState().settle('theirs');
    expect(names(other)).toEqual(['', 'theirs']);
    other.getState().undo();
    expect(names(other)).toEqual(['', 'mine']);
  });
  it('takes over what others save while nothing of its own is open', () => {
    const store = cutStore('p', view, saving());
    store.getState().heard({ document: withRow(emptyCut(), 'new'), revision: 4 });
    expect(names(store)).toEqual(['', 'new']);
    store.getState().heard({ document: emptyCut(), revision: 2 });
    expect(names(store)).toEqual(['', 'new']);
  });
  it('has nothing to send of what was undone in time', async () => {
    const save = saving(),
      store = cutStore('p', view, save);
    store.getState().edit('one', named('a'));
    store.getState().undo();
    await vi.advanceTimersByTimeAsync(500);
    expect(save).not.toHaveBeenCalled();
    expect(store.getState().kept).toBe('saved');
    expect(kept.size).toBe(0);
  });
  it('says why something is refused', async () => {
    const store = cutStore('p', view, () => Promise.reject(new Refused(422, 'rows[0] is odd')));
    store.getState().edit('one', named('a'));
    await vi.advanceTimersByTimeAsync(400);
    expect(store.getState()).toMatchObject({ kept: 'refused', trouble: 'rows[0] is odd' });
  });
});
