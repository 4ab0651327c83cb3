import { useMemo } from 'react';
import { IDLE_WORDS, nextActing } from '../../../core';
import { playheadOf, useBench, useClipTime, useHeroFacts } from './context';
import { onHero } from './time-lanes';

/** Why something has no effect. */
export interface IdleSaid {
  readonly words: string;
  /** The next frame at which it acts, if it does not act at this one. */
  readonly next: number | undefined;
}
/**
 * Why a layer (`key`) or step (`layer/step`) has no effect at the hero's frame; undefined if it
 * has, or is off.
 */
export function useIdleWords(key: string): IdleSaid | undefined {
  const hero = useHeroFacts(),
    time = useClipTime();
  const idle = useBench((s) => s.idle[key]);
  const waits = idle !== undefined && idle !== 'off';
  const look = useBench((s) => (waits ? s.still : null)),
    frame = useBench((s) => (waits ? playheadOf(hero, s) : 0));
  return useMemo(() => {
    if (!look || !idle) return undefined;
    const next = nextActing(look, key, frame, onHero(hero, time));
    return {
      words: next === undefined ? IDLE_WORDS[idle] : `not on this frame, next at ${next}`,
      next,
    };
  }, [look, idle, key, frame, hero, time]);
}
