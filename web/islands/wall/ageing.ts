/**
 * Ageing on the Wall: a dial that changes over the clips of a look in the project's order, tried on
 * the tiles until applied.
 */
import { useMemo, useState } from 'react';
import { agedValues, type DialValues, type EaseId, withTrim } from '../../../core';
import type { ClipView } from '../../data/views';

/** A dial's change over clips. */
export interface Ageing {
  readonly lookId: string;
  readonly dial: string;
  readonly from: number;
  readonly to: number;
  readonly ease: EaseId;
}

/** The resulting trims by clip; trims of other dials stay. */
export function agedTrims(
  clips: readonly ClipView[],
  { lookId, dial, from, to, ease }: Ageing,
): Map<string, DialValues> {
  const wearing = clips.filter((c) => c.role === 'clip' && c.look?.lookId === lookId);
  const values = agedValues(wearing.length, from, to, ease);
  return new Map(wearing.map((c, i) => [c.id, withTrim(c.trims[lookId] ?? {}, dial, values[i]!)]));
}

/** State of ageing. */
export function useAgeing(clips: readonly ClipView[], open: boolean) {
  const [ageing, setAgeing] = useState<Ageing | null>(null);
  const trims = useMemo(
    () => (open && ageing ? agedTrims(clips, ageing) : new Map<string, DialValues>()),
    [open, ageing, clips],
  );
  return { ageing, set: setAgeing, trims };
}
/** State of ageing. */
export type Drifting = ReturnType<typeof useAgeing>;
