/** Keyboard shortcuts by the typed character, independent of the keyboard layout. */
import { useEffect, useRef } from 'react';

const NAMES: Readonly<Record<string, string>> = {
  ' ': 'space',
  ArrowLeft: 'left',
  ArrowRight: 'right',
  Home: 'home',
  PageUp: 'pageup',
  PageDown: 'pagedown',
  End: 'end',
  Delete: 'delete',
  Backspace: 'delete',
  Escape: 'escape',
  '+': 'plus',
  // Where + needs Shift, its key alone works too.
  '=': 'plus',
  '-': 'minus',
  '−': 'minus',
};
type Typed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/**
 * The name of a key press: `s`, `shift+s`, `mod+z`, `?`, `plus`, `left`. Shift is named for letters
 * and special keys only, because layouts differ in which characters need it. Letters of other
 * scripts are named by their position.
 */
export function shortcutOf({ key, code, ctrlKey, metaKey, shiftKey, altKey }: Typed): string {
  const mod = ctrlKey || metaKey ? 'mod+' : '';
  const named = NAMES[key];
  if (named) return `${mod}${shiftKey && key.length > 1 ? 'shift+' : ''}${named}`;
  const letter = /^[a-z]$/i.test(key)
    ? key
    : key.length === 1 && /\p{L}/u.test(key)
      ? (/^Key([A-Z])$/.exec(code)?.[1] ?? key)
      : undefined;
  if (letter)
    return `${altKey ? 'alt+' : ''}${mod}${shiftKey ? 'shift+' : ''}${letter.toLowerCase()}`;
  return `${mod}${key}`;
}

/** Whether text is typed into an element. Sliders, switches and colours are inputs without text. */
export const isTyping = (e: EventTarget | null): boolean =>
  (e instanceof HTMLInputElement && !['range', 'checkbox', 'radio', 'color'].includes(e.type)) ||
  e instanceof HTMLTextAreaElement ||
  (e instanceof HTMLElement && e.isContentEditable);

/** Listens for key presses, except while text is typed. `on` returns whether it handled the key. */
export function useShortcuts(on: (shortcut: string, e: KeyboardEvent) => boolean): void {
  const now = useRef(on);
  now.current = on;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const shortcut = shortcutOf(e);
      // Escape closes the dialog above the place and does nothing below it.
      if (shortcut === 'escape' && document.querySelector('dialog:modal')) return;
      if (!e.defaultPrevented && !isTyping(e.target) && now.current(shortcut, e))
        e.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}

/** Reports when a key is pressed and released. */
export function useHeld(shortcut: string, onHold: (down: boolean) => void): void {
  const told = useRef(onHold);
  told.current = onHold;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (shortcutOf(e) === shortcut && !e.repeat && !isTyping(e.target))
        told.current(e.type === 'keydown');
    };
    addEventListener('keydown', onKey);
    addEventListener('keyup', onKey);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('keyup', onKey);
    };
  }, [shortcut]);
}
