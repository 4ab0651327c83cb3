/** Shortcuts by the character that is typed, wherever a country's keyboard has it. */
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
  // Where + needs Shift, its key alone does as well.
  '=': 'plus',
  '-': 'minus',
  '−': 'minus',
};
type Typed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/**
 * What a key press is called: `s`, `shift+s`, `mod+z`, `?`, `plus`, `left`. Shift is told of
 * letters and named keys alone: it is how a keyboard reaches a character, and which need it
 * differs. Letters of other scripts go by their place.
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

/** Sliders, switches and colours are inputs too, but nothing is typed into them. */
export const isTyping = (e: EventTarget | null): boolean =>
  (e instanceof HTMLInputElement && !['range', 'checkbox', 'radio', 'color'].includes(e.type)) ||
  e instanceof HTMLTextAreaElement ||
  (e instanceof HTMLElement && e.isContentEditable);

/**
 * Listens to keys going down, except while something is typed; `on` says whether the key was its
 * own.
 */
export function useShortcuts(on: (shortcut: string, e: KeyboardEvent) => boolean): void {
  const now = useRef(on);
  now.current = on;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const shortcut = shortcutOf(e);
      // It closes the dialog that lies over the place, and does nothing behind it.
      if (shortcut === 'escape' && document.querySelector('dialog:modal')) return;
      if (!e.defaultPrevented && !isTyping(e.target) && now.current(shortcut, e))
        e.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}

/** Tells when a key goes down and up again. */
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
