/** The words of `title` for those who do not hover: by keys, and by touch. */
import { useEffect, useRef, useState } from 'react';

/** Time on one control after which its words are shown, ms. */
const RESTS = 500;
/** Time for which they stay after a finger has left, ms. */
const STAYS = 2500;
/** Widest that they are, and their distance from the control, px. */
const WIDE = 288,
  GAP = 6;

interface Shown {
  readonly words: string;
  /** Place of the control in the window. */
  readonly at: Pick<DOMRect, 'left' | 'top' | 'bottom'>;
}
const titled = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>('[title]:not([title=""])') : null;

/**
 * Shows the `title` of what has the focus by keys for a moment, or is held by a finger. Anything
 * else that happens, Escape among it, puts it away; a finger that asked for words does not press.
 */
export function TitleHelp() {
  const [shown, setShown] = useState<Shown | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined,
      isHeld = false,
      byKeys = false;
    const hide = () => {
      clearTimeout(timer);
      setShown(null);
    };
    const rest = (el: HTMLElement, byFinger: boolean) => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        isHeld = byFinger;
        setShown({ words: el.title, at: el.getBoundingClientRect() });
      }, RESTS);
    };
    const on: { readonly [E in keyof DocumentEventMap]?: (e: DocumentEventMap[E]) => void } = {
      focusin({ target }) {
        const el = titled(target);
        if (el && byKeys) rest(el, false);
      },
      focusout: hide,
      keydown() {
        hide();
        byKeys = true;
      },
      scroll: hide,
      pointerdown({ pointerType, target }) {
        hide();
        isHeld = byKeys = false;
        const el = titled(target);
        if (el && pointerType === 'touch') rest(el, true);
      },
      pointerup({ pointerType }) {
        clearTimeout(timer);
        if (pointerType === 'touch') timer = setTimeout(hide, STAYS);
      },
      pointercancel: hide,
      click(e) {
        if (!isHeld) return;
        isHeld = false;
        e.preventDefault();
        e.stopPropagation();
      },
    };
    const all = Object.entries(on) as [string, EventListener][];
    for (const [event, act] of all) document.addEventListener(event, act, true);
    return () => {
      clearTimeout(timer);
      for (const [event, act] of all) document.removeEventListener(event, act, true);
    };
  }, []);
  // Above dialogs as well, which lie above everything else on the page.
  useEffect(() => box.current?.showPopover?.(), [shown]);
  if (!shown) return null;
  const { left, top, bottom } = shown.at,
    low = bottom > innerHeight - 80;
  return (
    <div
      key={shown.words}
      ref={box}
      popover="manual"
      // It is announced as the control's own description.
      aria-hidden="true"
      data-title-help
      className="fixed m-0 px-2 py-1 rounded-sm border line bg-base-300 text-base-content pointer-events-none"
      style={{
        inset: 'auto',
        maxWidth: WIDE,
        left: Math.max(GAP, Math.min(left, innerWidth - WIDE - GAP)),
        ...(low ? { bottom: innerHeight - top + GAP } : { top: bottom + GAP }),
      }}
    >
      {shown.words}
    </div>
  );
}
