import { useMemo } from 'react';
import { IDLE_WORDS, nextActing } from '../../../core';
import { playheadOf, useBench, useClipTime, useHeroFacts } from './context';
import { onHero } from './time-lanes';

export interface IdleSaid {
  readonly words: string;
  /** The frame at which it acts next, where it does not act at this one. */
  readonly next: number | undefined;
}
/**
 * Why a layer (`key`) or a step (`layer/step`) does nothing at the hero's frame; undefined where it
 * does something, or is off.
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
