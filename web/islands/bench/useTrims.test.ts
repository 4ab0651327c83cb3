import { expect, it } from 'vitest';
import { SHIPPED } from '../../../core';
import { benchStore } from './store';
import { withLookTrims } from './useTrims';

const look = SHIPPED[1]!.look;
const open = (trims = {}) => benchStore({ lookId: 'a', number: 1, saved: look }, look, trims);

it('dials set the clip’s own values while it is trimmed, and are undone among the look’s own changes', () => {
  const store = open();
  store.getState().turn('Strength', 'strength', 90);
  store.getState().trimFor('kelp');
  for (const v of [10, 20]) store.getState().turn('Strength on kelp', 'strength', v, 'drag');
  store.getState().endGesture();
  expect(store.getState().trims).toEqual({ kelp: { strength: 20 } });
  expect(store.getState().look.dials[0]!.value).toBe(90);
  store.getState().turn('clear', 'strength');
  expect(store.getState().trims).toEqual({ kelp: {} });
  store.getState().undo();
  expect(store.getState().trims).toEqual({ kelp: { strength: 20 } });
  store.getState().undo();
  expect(store.getState().trims).toEqual({});
  store.getState().undo();
  expect(store.getState().look).toBe(look);
  store.getState().redo();
  store.getState().redo();
  expect([store.getState().look.dials[0]!.value, store.getState().trims]).toEqual([
    90,
    { kelp: { strength: 20 } },
  ]);
});
it('what the server says of trims is no step of the history', () => {
  const store = open({ gulls: { strength: 5 } });
  store.getState().heard({ gulls: { strength: 6 } });
  expect([store.getState().trims, store.getState().past]).toEqual([{ gulls: { strength: 6 } }, []]);
});
it('a change to the look itself makes the dials the look’s again', () => {
  const store = open();
  store.getState().trimFor('kelp');
  store.getState().change('rename', { ...look, name: 'Other' });
  expect(store.getState().trimming).toBeNull();
});
it('a look’s trims are replaced beside those of other looks, and leave no trace when there are none', () => {
  expect(withLookTrims({ b: { x: 1 } }, 'a', { y: 2 })).toEqual({ b: { x: 1 }, a: { y: 2 } });
  expect(withLookTrims({ b: { x: 1 }, a: { y: 2 } }, 'a', {})).toEqual({ b: { x: 1 } });
});
