/** The Bench's state: the look being built, how it came to be (undo), and what is looked at. */
import { createStore } from 'zustand/vanilla';
import {
  type Dial,
  type DialValue,
  type DialValues,
  edit,
  type Idle,
  type LookDocument,
  type MatteView,
  type Point,
  upToDate,
  withTrim,
  type FieldView,
} from '../../../core';
import type { Handle } from './handles';
import type { Probed } from '../../engine/protocol';

/** Each clip's trims of the look, by the clip's id. */
export type TrimsByClip = Readonly<Record<string, DialValues>>;
export const NO_TRIMS: DialValues = {};

interface Step {
  readonly name: string;
  readonly look: LookDocument;
  readonly trims: TrimsByClip;
  /** What else was done, elsewhere than in the look and its trims. */
  readonly outside?: Outside | undefined;
}
export interface Outside {
  readonly undo: () => void;
  readonly redo: () => void;
}
export interface Opened {
  readonly lookId: string;
  readonly number: number;
  readonly saved: LookDocument;
}
export interface Chosen {
  readonly layer: string;
  readonly step?: string;
}

/**
 * A value that is waiting to be picked from the hero: of what a layer is given or leads to, or of
 * the result.
 */
export interface Picking {
  readonly label: string;
  readonly layer?: string | undefined;
  readonly side: 'before' | 'after';
  readonly take: (p: Probed) => void;
}

/** A place that is waiting to be clicked on the hero, in shares of the frame. */
export interface Placing {
  readonly label: string;
  /** It goes on asking until it is ended. */
  readonly many: boolean;
  /** Whether one place is not enough (the other end of a line). */
  readonly take: (place: Point) => 'more' | 'enough';
}

/**
 * A matte that is shown in place of the hero: its owner's key (`layer` or `layer/step`), and how.
 */
export interface MatteShown {
  readonly key: string;
  readonly how: MatteView;
}

/** A change of the look as it is by then. */
export type LookEdit = (now: LookDocument) => LookDocument;

export interface BenchState {
  readonly opened: Opened;
  readonly look: LookDocument;
  /**
   * The look as of the last change of anything but where its dials stand: what shows no dial stays
   * as it is while one moves.
   */
  readonly still: LookDocument;
  readonly trims: TrimsByClip;
  /** The clip whose trims the dials set; none: they are the look's own. */
  readonly trimming: string | null;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  /** The gesture under way: its changes are undone as one. */
  readonly gesture: string | null;
  readonly chosen: Chosen | null;
  readonly unfolded: ReadonlySet<string>;
  readonly picking: Picking | null;
  readonly placing: Placing | null;
  /** What can be moved on the hero: the shapes of the controls that are open. */
  readonly handles: ReadonlyMap<string, Handle>;
  readonly handlesShown: boolean;
  /** The layer that is shown alone. */
  readonly solo: string | null;
  readonly matteShown: MatteShown | null;
  /** The hero's motion is shown in its place, and how. */
  readonly fieldShown: FieldView | null;
  /** The layer whose blend modes are seen side by side. */
  readonly modesOf: string | null;
  /** Where each clip's playhead stands, by the clip's id; the middle where none was set. */
  readonly frames: Readonly<Record<string, number>>;
  /**
   * The frames that are played again and again, first and last, by the clip's id; all of it where
   * none are set.
   */
  readonly loops: Readonly<Record<string, readonly [first: number, last: number]>>;
  /** The time shelf's lanes are open. */
  readonly timeOpen: boolean;
  /** The mover whose curve and numbers are shown. */
  readonly mover: string | null;
  /** Its chosen keys, by their places in the list. */
  readonly keysChosen: readonly number[];
  /** What does nothing at the hero, by layer and `layer/step`. */
  readonly idle: Readonly<Record<string, Idle>>;
  /** Changes the look; the dials are the look's again. */
  change(name: string, to: LookDocument | LookEdit, gesture?: string): void;
  /**
   * Sets a dial of the look, or the clip's own value for it; without a value the clip's own goes.
   */
  turn(name: string, dial: string, value?: DialValue, gesture?: string): void;
  trim(name: string, clip: string, trims: DialValues, gesture?: string): void;
  /** Trims as they are on the server. */
  heard(trims: TrimsByClip): void;
  trimFor(clip: string | null): void;
  endGesture(): void;
  undo(): void;
  redo(): void;
  choose(c: Chosen | null): void;
  fold(key: string, open?: boolean): void;
  pick(p: Picking | null): void;
  place(p: Placing | null): void;
  /** Puts up a handle, or takes it down. */
  handle(id: string, h: Handle | null): void;
  show(
    s: Partial<
      Pick<
        BenchState,
        | 'solo'
        | 'matteShown'
        | 'fieldShown'
        | 'modesOf'
        | 'handlesShown'
        | 'idle'
        | 'timeOpen'
        | 'mover'
        | 'keysChosen'
      >
    >,
  ): void;
  /** Puts a clip's playhead on a frame. */
  seek(clip: string, frame: number): void;
  /** Sets what is played of a clip; null: all of it. */
  loop(clip: string, frames: readonly [first: number, last: number] | null): void;
  /** Something was done outside the look: it is undone and redone among the look's changes. */
  did(name: string, outside: Outside): void;
  savedAs(number: number, saved: LookDocument): void;
}

/** No key is chosen. */
export const NO_KEYS: readonly number[] = [];

const MOST_STEPS = 300;
const draftKey = (lookId: string): string => `wabisabi-draft-${lookId}`;

interface Draft {
  readonly basedOn: number;
  readonly look: LookDocument;
}
/** Edits of this look that were never saved, from an earlier visit. */
export function draftOf(lookId: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(draftKey(lookId)) ?? 'null') as Draft | null;
    return kept && { ...kept, look: upToDate(kept.look) };
  } catch {
    return null;
  }
}
function keepDraft(s: BenchState): void {
  try {
    if (isUnsaved(s))
      localStorage.setItem(
        draftKey(s.opened.lookId),
        JSON.stringify({ basedOn: s.opened.number, look: s.look }),
      );
    else localStorage.removeItem(draftKey(s.opened.lookId));
  } catch {
    /* a full or closed store only costs the draft */
  }
}
const texts = new WeakMap<LookDocument, string>();
const textOf = (look: LookDocument): string => {
  const text = texts.get(look) ?? JSON.stringify(look);
  texts.set(look, text);
  return text;
};
export const isUnsaved = (s: Pick<BenchState, 'look' | 'opened'>): boolean =>
  s.look !== s.opened.saved && textOf(s.look) !== textOf(s.opened.saved);

const ofDial = (d: Dial): object => ({ ...d, value: undefined });
const alike = (a: object, b: object): boolean =>
  a === b ||
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every(
    (k) => a[k as never] === b[k as never],
  );
/** Whether two looks differ in nothing but where their dials stand. */
export function onlyDialsMoved(a: LookDocument, b: LookDocument): boolean {
  const same =
    a.dials.length === b.dials.length &&
    a.dials.every((d, i) => d === b.dials[i] || alike(ofDial(d), ofDial(b.dials[i]!)));
  return same && alike({ ...a, dials: null }, { ...b, dials: null });
}

/**
 * During a gesture the draft is kept at most this long (ms) after a change, and when the page goes.
 */
const DRAFT_EVERY = 250;

export function benchStore(opened: Opened, look: LookDocument, trims: TrimsByClip = {}) {
  const store = createStore<BenchState>()((set, get) => {
    const stillAfter = (next: LookDocument): LookDocument =>
      onlyDialsMoved(next, get().still) ? get().still : next;
    const put = (
      name: string,
      next: Partial<Pick<BenchState, 'look' | 'trims' | 'trimming'>>,
      gesture?: string,
    ): void => {
      const { look: before, trims: own, past, gesture: now } = get();
      const look = next.look ?? before;
      if (look === before && (next.trims ?? own) === own) return;
      const same = gesture !== undefined && gesture === now;
      const step = { name, look: before, trims: own };
      set({
        ...next,
        still: stillAfter(look),
        future: [],
        gesture: gesture ?? null,
        past: same ? past : [...past.slice(-MOST_STEPS), step],
      });
    };
    /** To the last step of one side; what is now goes to the other. */
    const go = (
      from: 'past' | 'future',
      to: 'past' | 'future',
      act: (o: Outside) => void,
    ): void => {
      const { look: now, trims: own, [from]: steps, [to]: others } = get();
      const next = steps.at(-1);
      if (!next) return;
      if (next.outside) act(next.outside);
      const left = { name: next.name, look: now, trims: own, outside: next.outside };
      set({
        look: next.look,
        still: stillAfter(next.look),
        trims: next.trims,
        [from]: steps.slice(0, -1),
        [to]: [...others, left],
        gesture: null,
      });
    };
    return {
      opened,
      look,
      still: look,
      trims,
      trimming: null,
      past: [],
      future: [],
      gesture: null,
      chosen: null,
      picking: null,
      placing: null,
      handles: new Map(),
      handlesShown: true,
      solo: null,
      matteShown: null,
      fieldShown: null,
      modesOf: null,
      idle: {},
      frames: {},
      loops: {},
      timeOpen: false,
      mover: null,
      keysChosen: NO_KEYS,
      unfolded: new Set(),
      change: (name, to, gesture) =>
        put(
          name,
          { look: typeof to === 'function' ? to(get().look) : to, trimming: null },
          gesture,
        ),
      turn(name, dial, value, gesture) {
        const { look: now, trims: all, trimming } = get();
        if (trimming !== null)
          get().trim(name, trimming, withTrim(all[trimming] ?? NO_TRIMS, dial, value), gesture);
        else if (value !== undefined) put(name, { look: edit.setDial(now, dial, value) }, gesture);
      },
      trim: (name, clip, own, gesture) =>
        put(name, { trims: { ...get().trims, [clip]: own } }, gesture),
      heard: (all) => set({ trims: all }),
      trimFor: (trimming) => set({ trimming, gesture: null }),
      endGesture: () => set({ gesture: null }),
      undo: () => go('past', 'future', (o) => o.undo()),
      redo: () => go('future', 'past', (o) => o.redo()),
      choose: (chosen) => set({ chosen }),
      pick: (picking) => set({ picking, placing: null }),
      place: (placing) => set({ placing, picking: null }),
      handle(id, h) {
        const handles = new Map(get().handles);
        if (h) handles.set(id, h);
        else handles.delete(id);
        set({ handles });
      },
      show: (s) => set(s),
      seek: (clip, frame) => set({ frames: { ...get().frames, [clip]: frame } }),
      loop(clip, frames) {
        const { [clip]: _, ...others } = get().loops;
        set({ loops: frames ? { ...others, [clip]: frames } : others });
      },
      did(name, outside) {
        const { look: now, trims: own, past } = get();
        set({
          future: [],
          gesture: null,
          past: [...past.slice(-MOST_STEPS), { name, look: now, trims: own, outside }],
        });
      },
      fold(key, open) {
        const unfolded = new Set(get().unfolded);
        if (open ?? !unfolded.has(key)) unfolded.add(key);
        else unfolded.delete(key);
        set({ unfolded });
      },
      savedAs: (number, saved) => set((s) => ({ opened: { ...s.opened, number, saved } })),
    };
  });
  let waiting: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    clearTimeout(waiting);
    waiting = undefined;
    keepDraft(store.getState());
  };
  store.subscribe((s, before) => {
    if (s.look === before.look && s.opened === before.opened) return;
    if (s.gesture === null) keep();
    else waiting ??= setTimeout(keep, DRAFT_EVERY);
  });
  globalThis.addEventListener?.('pagehide', keep);
  return store;
}
export type BenchStore = ReturnType<typeof benchStore>;
