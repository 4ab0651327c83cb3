/** Words of `title` by keys and by touch. */
import { act, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { TitleHelp } from './TitleHelp';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const show = () => {
  const pressed = vi.fn();
  render(
    <>
      <TitleHelp />
      <button title="Puts it back" onClick={pressed}>
        undo
      </button>
      <label title="Straight from mark to mark">
        <input type="checkbox" aria-label="by hand" />
      </label>
      <button>plain</button>
    </>,
  );
  return { pressed, undo: screen.getByRole('button', { name: 'undo' }) };
};
const wait = (ms: number) => act(() => vi.advanceTimersByTime(ms));
/** Gives a control the focus as the Tab key does. */
const byKeys = (to: HTMLElement) => {
  fireEvent.keyDown(document.body, { key: 'Tab' });
  act(() => {
    to.blur();
    to.focus();
  });
};
const words = () => document.querySelector('[data-title-help]')?.textContent;

it('are shown beside what has the focus, after a moment, and go by Escape', () => {
  const { undo } = show();
  // A click that gives it the focus asks for nothing.
  fireEvent.pointerDown(undo);
  act(() => undo.focus());
  wait(600);
  expect(words()).toBeUndefined();
  byKeys(undo);
  wait(400);
  expect(words()).toBeUndefined();
  wait(200);
  expect(words()).toBe('Puts it back');
  fireEvent.keyDown(undo, { key: 'Escape' });
  expect(words()).toBeUndefined();
});
it('are those of the label around a control, and none where there are none', () => {
  show();
  byKeys(screen.getByLabelText('by hand'));
  wait(600);
  expect(words()).toBe('Straight from mark to mark');
  byKeys(screen.getByRole('button', { name: 'plain' }));
  wait(600);
  expect(words()).toBeUndefined();
});
it('are shown while a finger holds a control, which is not pressed by it', () => {
  const { undo, pressed } = show();
  const finger = (event: 'pointerDown' | 'pointerUp') =>
    fireEvent(
      undo,
      Object.assign(new MouseEvent(event.toLowerCase(), { bubbles: true }), {
        pointerType: 'touch',
      }),
    );
  finger('pointerDown');
  wait(600);
  expect(words()).toBe('Puts it back');
  finger('pointerUp');
  fireEvent.click(undo);
  expect(pressed).not.toHaveBeenCalled();
  wait(3000);
  expect(words()).toBeUndefined();
  // A tap presses as ever.
  finger('pointerDown');
  wait(100);
  finger('pointerUp');
  fireEvent.click(undo);
  expect(pressed).toHaveBeenCalledTimes(1);
  expect(words()).toBeUndefined();
});
