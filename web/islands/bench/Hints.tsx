/** Three hints for building a first look; each disappears for good when followed or dismissed. */
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { allLayers, type LookDocument, STRENGTH } from '../../../core';
import { useStill } from './context';

interface Hint {
  readonly id: string;
  readonly text: string;
  readonly isDone: (look: LookDocument) => boolean;
}
const HINTS: readonly Hint[] = [
  {
    id: 'layer',
    text: 'Begin with + layer: the clip again, a colour, or what is below it.',
    isDone: (l) => l.layers.length > 0,
  },
  {
    id: 'step',
    text: 'Open the layer and press + step: each shows what it does to this picture.',
    isDone: (l) => allLayers(l).some((o) => o.steps.length > 0),
  },
  {
    id: 'dial',
    text: 'The small circle beside a number makes it a dial: what you will turn on every clip.',
    isDone: (l) => l.dials.some((d) => d.key !== STRENGTH),
  },
];
const GONE = 'wabisabi-hints';
const goneBefore = (): readonly string[] => {
  try {
    const kept = JSON.parse(localStorage.getItem(GONE) ?? '[]') as unknown;
    return Array.isArray(kept) ? kept.map(String) : [];
  } catch {
    return [];
  }
};

/** The next hint. Nothing for looks that already have content, or for people who have built one. */
export function Hints() {
  const [gone, setGone] = useState(goneBefore);
  const done = useStill((look) => HINTS.filter((h) => h.isDone(look)).map((h) => h.id));
  // Only changes after opening count as followed.
  const [begun] = useState(done);
  const followed = done.filter((id) => !begun.includes(id)).join();
  const leave = (ids: readonly string[]) =>
    setGone((was) => {
      const now = [...new Set([...was, ...ids])];
      localStorage.setItem(GONE, JSON.stringify(now));
      return now;
    });
  useEffect(() => {
    if (followed) leave(followed.split(','));
  }, [followed]);
  const hint = HINTS.find((h) => !gone.includes(h.id) && !done.includes(h.id));
  if (!hint || begun.length === HINTS.length) return null;
  return (
    <p
      role="note"
      className="flex items-start gap-2 px-3 py-2 border-t line quiet"
      data-hint={hint.id}
    >
      <span className="flex-1">{hint.text}</span>
      <button
        className="flex-none"
        aria-label="Leave this hint out"
        onClick={() => leave([hint.id])}
      >
        <X size={11} aria-hidden="true" />
      </button>
    </p>
  );
}
