import { describe, expect, it } from 'vitest';
import { shortcutOf } from './shortcuts';

const press = (
  key: string,
  code: string,
  held: { ctrl?: boolean; shift?: boolean; meta?: boolean } = {},
): string =>
  shortcutOf({
    key,
    code,
    ctrlKey: held.ctrl ?? false,
    metaKey: held.meta ?? false,
    shiftKey: held.shift ?? false,
    altKey: false,
  });

describe('shortcuts go by what is typed', () => {
  it('the list of shortcuts is the question mark, on English, German and French keyboards', () => {
    expect(press('?', 'Slash', { shift: true })).toBe('?');
    expect(press('?', 'Minus', { shift: true })).toBe('?');
    expect(press('?', 'KeyM', { shift: true })).toBe('?');
  });
  it('closer and further are plus and minus, with Shift or without', () => {
    for (const [key, code, shift] of [
      ['+', 'Equal', true],
      ['=', 'Equal', false],
      ['+', 'BracketRight', false],
      ['+', 'NumpadAdd', false],
    ] as const)
      expect(press(key, code, { shift })).toBe('plus');
    for (const code of ['Minus', 'Slash', 'Digit6', 'NumpadSubtract'])
      expect(press('-', code)).toBe('minus');
  });
  it('digits are digits where they need Shift too', () => {
    expect(press('1', 'Digit1', { shift: true })).toBe('1');
    expect(press('1', 'Digit1')).toBe('1');
  });
  it('letters are what is typed: Z and Y change places in Germany, W and Z in France', () => {
    expect(press('z', 'KeyY', { ctrl: true })).toBe('mod+z');
    expect(press('Z', 'KeyY', { meta: true, shift: true })).toBe('mod+shift+z');
    expect(press('w', 'KeyZ')).toBe('w');
    expect(press('S', 'KeyS', { shift: true })).toBe('shift+s');
  });
  it('letters of other scripts go by their place', () => {
    expect(press('я', 'KeyZ', { ctrl: true })).toBe('mod+z');
    expect(press('ы', 'KeyS')).toBe('s');
  });
  it('named keys keep their Shift', () => {
    expect(press('ArrowLeft', 'ArrowLeft', { shift: true })).toBe('shift+left');
    expect(press(' ', 'Space')).toBe('space');
  });
});
