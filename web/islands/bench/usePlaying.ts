import { useEffect, useRef, useState } from 'react';
import type { ClipView } from '../../api/views';
import type { EngineClient } from '../../engine/client';

/** Plays the hero from its proxy at its own rate; frames that the machine cannot keep up with are left out, time is not. */
export function usePlaying(engine: EngineClient, clip: ClipView, frame: number, setFrame: (f: number) => void): { on: boolean; toggle: () => void } {
  const [on, setOn] = useState(false);
  const shown = useRef({ frame, setFrame, waiting: false });
  shown.current.frame = frame;
  shown.current.setFrame = setFrame;
  useEffect(
    () =>
      engine.on('hero', () => {
        shown.current.waiting = false;
      }),
    [engine],
  );
  useEffect(() => {
    if (!on) return;
    const began = performance.now(),
      from = shown.current.frame;
    let id = requestAnimationFrame(function tick(now) {
      const next = (from + Math.floor(((now - began) / 1000) * (clip.rate[0] / clip.rate[1]))) % clip.frames;
      const s = shown.current;
      if (next !== s.frame && !s.waiting) {
        s.waiting = true;
        s.setFrame(next);
      }
      id = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(id);
  }, [on, clip]);
  return {
    on,
    toggle: () => {
      shown.current.waiting = false;
      setOn((v) => !v);
    },
  };
}
