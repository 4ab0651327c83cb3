/**
 * Looks that leave a clip's picture as it is and its place as a look has it: what *before* is seen
 * under.
 */
import { emptyLook, type LookDocument } from '../../core';

type Part = 'frame' | 'retime';
const made = new WeakMap<LookDocument, Partial<Record<string, LookDocument>>>();

/**
 * A look with nothing of another but these parts, null where it has none of them; the same one each
 * time.
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
