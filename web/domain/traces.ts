/** Traces to a page: how sure a track is along a clip, in words and stretches. */
import {
  footageAt,
  lengthOf,
  type Mark,
  MARKED,
  type Path,
  splitPath,
  sureOf,
  type Track,
} from '../../core';

/** How sure a place is. */
export type Sureness = 'marked' | 'sure' | 'unsure' | 'lost';
/** Frames of a clip of one sureness: the first and the last. */
export interface Stretch {
  readonly first: number;
  readonly last: number;
  readonly is: Sureness;
}
type Shown = Parameters<typeof footageAt>[0];

/** How sure a track is at a frame of the footage. */
export function surenessAt({ places }: Track, frame: number): Sureness {
  const sure = sureOf(places[frame]);
  return sure >= MARKED ? 'marked' : sure >= 1 ? 'sure' : sure > 0 ? 'unsure' : 'lost';
}
/** Stretches of a clip by how sure a track is. */
export function stretchesOf(track: Track, clip: Shown): Stretch[] {
  const all: { first: number; last: number; is: Sureness }[] = [];
  for (let frame = 0; frame < lengthOf(clip); frame++) {
    const is = surenessAt(track, footageAt(clip, frame)),
      before = all.at(-1);
    if (before?.is === is) before.last = frame;
    else all.push({ first: frame, last: frame, is });
  }
  return all;
}
/** The next frame of a clip, all around, at which a track begins to be unsure or lost. */
export function nextDoubt(track: Track, clip: Shown, frame: number): number | undefined {
  const doubts = stretchesOf(track, clip)
    .filter((s) => s.is === 'unsure' || s.is === 'lost')
    .map((s) => s.first);
  return doubts.find((f) => f > frame) ?? doubts[0];
}
/** Whether a mark is followed by what lies around it, for want of anything right under it. */
export const isFollowedAround = ({ bare = [] }: Track): boolean =>
  bare.some((b) => b.around !== undefined);
/** How many frames of a clip are sure, unsure and lost, as words. */
export function sureWords(track: Track, clip: Shown): string {
  const counts = { marked: 0, sure: 0, unsure: 0, lost: 0 };
  for (const { first, last, is } of stretchesOf(track, clip)) counts[is] += last - first + 1;
  const { unsure, lost } = counts,
    sure = counts.sure + counts.marked;
  if (unsure + lost === 0) return 'sure on every frame';
  // What is followed by what lies around it is never sure.
  if (counts.sure === 0 && !isFollowedAround(track))
    return 'nothing there can be followed: mark a corner or a pattern, or lead it by hand';
  return [`sure on ${sure}`, unsure > 0 && `unsure on ${unsure}`, lost > 0 && `lost on ${lost}`]
    .filter(Boolean)
    .join(', ');
}
/**
 * Marks with those under which nothing can be followed moved to the nearest place where something
 * can; undefined if there is none.
 */
export function marksMoved(marks: readonly Mark[], { bare = [] }: Track): Mark[] | undefined {
  const found = new Map(bare.flatMap((b) => (b.nearest ? [[b.frame, b.nearest] as const] : [])));
  return marks.some((m) => found.has(m.frame))
    ? marks.map((m) => ({ ...m, ...found.get(m.frame) }))
    : undefined;
}
/** Marks with one more, in place of the one on its frame. */
export const withMark = (marks: readonly Mark[], mark: Mark): Mark[] =>
  [...marks.filter((m) => m.frame !== mark.frame), mark].sort((a, b) => a.frame - b.frame);
/**
 * Marks after an outline has gained or lost a node on one of them: all others with as many nodes
 * gain one at the same place of their curve, or lose the same one, so that a way lies between them.
 */
export function marksAlike(marks: readonly Mark[], was: Path, now: Path): Mark[] {
  const more = now.length > was.length,
    [shorter, longer] = more ? [was, now] : [now, was];
  const found = longer.findIndex((n, i) => n[0] !== shorter[i]?.[0] || n[1] !== shorter[i]?.[1]);
  return marks.map((m) => {
    if (!('nodes' in m) || m.nodes.length !== was.length) return m;
    const nodes = more
      ? splitPath(m.nodes, Math.max(0, found - 1), 0.5)
      : m.nodes.filter((_, i) => i !== found);
    return { ...m, nodes };
  });
}
/** A name that none of some traces has yet. */
export function freshName(name: string, traces: readonly { readonly name: string }[]): string {
  const taken = new Set(traces.map((t) => t.name));
  let free = name;
  for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
  return free;
}
