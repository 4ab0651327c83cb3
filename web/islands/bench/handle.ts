/**
 * Handles on the hero: each open control with a place, line, outline or places of colour registers
 * its own.
 */
import { useContext, useEffect, useEffectEvent, useId } from 'react';
import type { Parameter, ParameterValue } from '../../../core';
import { LayerContext, useBench, useStoreItself } from './context';

/** A handle. */
export interface Handle {
  readonly label: string;
  readonly parameter: Parameter;
  readonly value: ParameterValue;
  /** Values at the keys before and after this frame, if it has keys. */
  readonly neighbours?: readonly ParameterValue[];
  readonly put: (v: ParameterValue, gesture: string) => void;
  readonly end: () => void;
}

const KINDS: readonly Parameter['kind'][] = ['point', 'line', 'ellipse', 'path', 'colours'];
/** Whether a parameter can have a handle. */
export const hasHandle = (p: Parameter): boolean => KINDS.includes(p.kind);

/**
 * Registers a control's handle while the control is open, holds a constant, and belongs to the
 * chosen layer (or none).
 */
export function useHandle(holds: boolean, handle: Handle): void {
  const id = useId(),
    store = useStoreItself(),
    layer = useContext(LayerContext);
  const chosen = useBench((s) => layer === undefined || s.chosen?.layer === layer);
  const on = holds && chosen;
  const { label, parameter, value, neighbours } = handle;
  const lay = useEffectEvent(() => store.getState().handle(id, handle));
  useEffect(() => {
    if (on) lay();
  }, [on, id, store, label, parameter, value, neighbours]);
  useEffect(() => () => store.getState().handle(id, null), [on, id, store]);
}

/** The segment of an outline (by its first node) whose middle is nearest to a place. */
export function nearestSegment(
  path: readonly (readonly number[])[],
  [x, y]: readonly [number, number],
): number {
  let best = 0,
    least = Infinity;
  path.forEach((a, i) => {
    const b = path[(i + 1) % path.length]!;
    const d = ((a[0]! + b[0]!) / 2 - x) ** 2 + ((a[1]! + b[1]!) / 2 - y) ** 2;
    if (d < least) [best, least] = [i, d];
  });
  return best;
}
