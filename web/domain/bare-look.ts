/** Looks that keep only a look's frame and retime, for showing *before*. */
import { emptyLook, type LookDocument } from '../../core';

type Part = 'frame' | 'retime';
const made = new WeakMap<LookDocument, Partial<Record<string, LookDocument>>>();

/**
 * A look with only these parts of another; null if it has none of them. Returns the same object
 * each time.
 */
export function bareLook(
  look: LookDocument | null | undefined,
  parts: readonly Part[] = ['frame', 'retime'],
): LookDocument | null {
  const there = parts.filter((part) => look?.[part] !== undefined);
  if (!look || there.length === 0) return null;
  const known = made.get(look) ?? made.set(look, {}).get(look)!;
  const { dials, pins } = look;
  return (known[there.join()] ??= {
    ...emptyLook('before'),
    dials,
    ...(pins && { pins }),
    ...Object.fromEntries(there.map((part) => [part, look[part]])),
  });
}
