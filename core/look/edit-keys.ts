/** Edits of several keys of a mover at once, by their indices. Their origins stay. */
import { unsuited, type ParameterValue } from '../parameters';
import type { ClipTime, EaseKind, FrameIndex } from '../time';
import type { EaseUse, KeyUse, LookDocument, Mover } from './document';
import { changeKey, changeMover, instantAt, keysOnClip, moverNamed, setKey } from './edit-time';
import { parameterAt } from './paths';

interface Placed {
  readonly index: number;
  readonly frame: FrameIndex;
}
function chosenOf(
  look: LookDocument,
  mover: Mover,
  which: readonly number[],
  clip: ClipTime,
): Placed[] {
  const all = keysOnClip(look, mover, clip);
  return all.filter((k) => which.includes(k.index));
}

/** Puts each key on a given frame. */
function placed(
  look: LookDocument,
  key: string,
  all: readonly Placed[],
  to: (frame: FrameIndex) => FrameIndex,
  clip: ClipTime,
): LookDocument {
  const { keys } = moverNamed(look, key)!;
  return all.reduce(
    (doc, { index, frame }) =>
      changeKey(doc, key, index, { at: instantAt(look, to(frame), clip, keys![index]!.at) }),
    look,
  );
}
const within = (frame: FrameIndex, clip: ClipTime): FrameIndex =>
  Math.max(0, Math.min(clip.frames - 1, frame));

/** Shifts keys by a number of frames, limited so that none leaves the clip. */
export function shiftKeys(
  look: LookDocument,
  key: string,
  which: readonly number[],
  by: number,
  clip: ClipTime,
): LookDocument {
  const mover = moverNamed(look, key),
    all = mover ? chosenOf(look, mover, which, clip) : [];
  if (all.length === 0) return look;
  const [first, last] = [all[0]!.frame, all.at(-1)!.frame];
  const held = Math.max(-first, Math.min(clip.frames - 1 - last, by));
  return placed(look, key, all, (f) => f + held, clip);
}
/**
 * Stretches or shrinks the span of keys to `frames` frames; the first key stays, distances keep
 * their proportions.
 */
export function stretchKeys(
  look: LookDocument,
  key: string,
  which: readonly number[],
  frames: number,
  clip: ClipTime,
): LookDocument {
  const mover = moverNamed(look, key),
    all = mover ? chosenOf(look, mover, which, clip) : [];
  const [first, last] = [all[0]?.frame ?? 0, all.at(-1)?.frame ?? 0];
  if (first === last) return look;
  return placed(
    look,
    key,
    all,
    (f) => within(first + Math.floor(((f - first) * frames) / (last - first) + 0.5), clip),
    clip,
  );
}

const TURNED: Partial<Record<EaseKind, EaseKind>> = {
  'fast-first': 'slow-first',
  'slow-first': 'fast-first',
};
/** The same easing, run backwards. */
function turned(ease: EaseUse | undefined): EaseUse | undefined {
  if (!ease) return undefined;
  const { handles: h } = ease;
  return {
    ...ease,
    kind: TURNED[ease.kind] ?? ease.kind,
    ...(h && { handles: [1 - h[2], 1 - h[3], 1 - h[0], 1 - h[1]] as const }),
  };
}
/**
 * Mirrors keys in time between the first and the last of them; values and easings run backwards.
 */
export function mirrorKeys(
  look: LookDocument,
  key: string,
  which: readonly number[],
  clip: ClipTime,
): LookDocument {
  const mover = moverNamed(look, key),
    all = mover ? chosenOf(look, mover, which, clip) : [];
  if (all.length < 2) return look;
  const [first, last] = [all[0]!.frame, all.at(-1)!.frame];
  const moved = placed(look, key, all, (f) => first + last - f, clip);
  // An easing belongs to the key it starts at; after mirroring that is the later one.
  const eases = new Map(
    all.map(({ index }, i) => [
      index,
      i === 0
        ? mover!.keys![all.at(-1)!.index]!.ease
        : turned(mover!.keys![all[i - 1]!.index]!.ease),
    ]),
  );
  const keys = moverNamed(moved, key)!.keys!.map((k, i): KeyUse => {
    if (!eases.has(i)) return k;
    const { ease: _, ...plain } = k,
      ease = eases.get(i);
    return ease ? { ...plain, ease } : plain;
  });
  return changeMover(moved, key, { keys });
}

/** A copied key, with its distance in frames from the first of them. */
export interface CopiedKey {
  readonly after: number;
  readonly value: ParameterValue;
  readonly ease?: EaseUse;
}
/** Copies keys of a mover, by their indices. */
export function copiedKeys(
  look: LookDocument,
  key: string,
  which: readonly number[],
  clip: ClipTime,
): CopiedKey[] {
  const mover = moverNamed(look, key),
    all = mover ? chosenOf(look, mover, which, clip) : [];
  return all.map(({ index, frame }) => {
    const { value, ease } = mover!.keys![index]!;
    return { after: frame - all[0]!.frame, value, ...(ease && { ease }) };
  });
}
/**
 * Pastes copied keys, the first one at a frame. Keys outside the clip, and values that do not suit
 * the target, are left out.
 */
export function pasteKeys(
  look: LookDocument,
  key: string,
  copied: readonly CopiedKey[],
  frame: FrameIndex,
  clip: ClipTime,
): LookDocument {
  const mover = moverNamed(look, key),
    parameter = mover?.keys && parameterAt(look, mover.targets[0]!.path)?.parameter;
  if (!parameter) return look;
  return copied
    .filter((k) => frame + k.after < clip.frames && !unsuited(parameter, k.value))
    .reduce((doc, { after, value, ease }) => {
      const set = setKey(doc, key, frame + after, clip, value);
      const { index } = keysOnClip(set, moverNamed(set, key)!, clip).find(
        (k) => k.frame === frame + after,
      )!;
      return ease ? changeKey(set, key, index, { ease }) : set;
    }, look);
}
