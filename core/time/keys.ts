/** Keys: values at frames, and interpolation between them. */
import { type Mixing, mixValues, type Parameter, type ParameterValue } from '../parameters';
import type { FrameIndex } from './clip-time';
import { type Ease, eased } from './ease';

/** A key. */
export interface Key {
  readonly frame: FrameIndex;
  readonly value: ParameterValue;
  /** Easing towards the next key. */
  readonly ease: Ease;
}

/**
 * The value at a frame: the first key's before it, the last key's after it. Of several keys on one
 * frame the last in the list counts.
 */
export function keyedValue(
  of: Pick<Parameter, 'kind'>,
  keys: readonly Key[],
  frame: FrameIndex,
  mixing?: Mixing,
): ParameterValue {
  // A stable sort by time.
  const sorted = [...keys].sort((a, b) => a.frame - b.frame);
  let i = -1;
  while (i + 1 < sorted.length && sorted[i + 1]!.frame <= frame) i++;
  const from = sorted[Math.max(0, i)]!,
    to = sorted[i + 1];
  if (i < 0 || !to) return from.value;
  const share = (frame - from.frame) / (to.frame - from.frame);
  return mixValues(of, from.value, to.value, eased(from.ease, share), mixing);
}
