/** The Bench's state: the look being built, its history, and what is shown. */
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
  withTrim,
  type FieldView,
} from '../../../core';
import { keepDraft } from './drafts';
import type { Handle } from './handle';
import type { Probed } from '../../engine/protocol';
import {
  NO_TRIMS,
  trimsBefore,
  type TrimsByClip,
  type TrimValues,
  valuesAt,
  withTrimValues,
} from './trim-values';

interface Step {
  readonly name: string;
  readonly look: LookDocument;
  /** The trims that the change itself set, as they were: those of others are none of its business. */
  readonly trims: TrimValues;
  /** A change outside the look and its trims. */
  readonly outside?: Outside | undefined;
}
/** A change outside the look, with its inverse. */
export interface Outside {
  readonly undo: () => void;
  readonly redo: () => void;
}
/** The look that is open, as saved. */
export interface Opened {
  readonly lookId: string;
  readonly number: number;
  readonly saved: LookDocument;
}
/** The chosen layer or step. */
export interface Chosen {
  readonly layer: string;
  readonly step?: string;
}

/** A value to be picked from the hero: from the input or output of a layer, or from the result. */
export interface Picking {
  readonly label: string;
  readonly layer?: string | undefined;
  readonly side: 'before' | 'after';
  readonly take: (p: Probed) => void;
}

/** A place to be clicked on the hero, in shares of the frame. */
export interface Placing {
  readonly label: string;
  /** What is to be clicked. Default: the place, or each of many. */
  readonly asks?: string;
  /** Keeps asking until ended. */
  readonly many: boolean;
  /** Takes a place; returns whether another one is needed (the other end of a line). */
  readonly take: (place: Point) => 'more' | 'enough';
}

/** A matte shown in place of the hero: its owner's key (`layer` or `layer/step`), and how. */
export interface MatteShown {
  readonly key: string;
  readonly how: MatteView;
}

/** An edit of the look as it is at that time. */
export type LookEdit = (now: LookDocument) => LookDocument;

/** The Bench's state. */
export interface BenchState {
  readonly opened: Opened;
  readonly look: LookDocument;
  /**
   * The look without the latest moves of its dials: UI that shows no dial value subscribes to this.
   */
  readonly still: LookDocument;
  readonly trims: TrimsByClip;
  /** Id of the clip whose trims the dials set; null if they set the look. */
  readonly trimming: string | null;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  /** The current gesture, which is undone as one step. */
  readonly gesture: string | null;
  readonly chosen: Chosen | null;
  readonly unfolded: ReadonlySet<string>;
  readonly picking: Picking | null;
  readonly placing: Placing | null;
  /** Handles of the open controls. */
  readonly handles: ReadonlyMap<string, Handle>;
  readonly handlesShown: boolean;
  /** Key of the layer shown alone. */
  readonly solo: string | null;
  readonly matteShown: MatteShown | null;
  /** How the hero's motion is shown in its place, if at all. */
  readonly fieldShown: FieldView | null;
  /** Key of the layer whose blend modes are shown side by side. */
  readonly modesOf: string | null;
  /** The playhead's frame by clip id; the middle by default. */
  readonly frames: Readonly<Record<string, number>>;
  /** The loop's first and last frame by clip id; all frames by default. */
  readonly loops: Readonly<Record<string, readonly [first: number, last: number]>>;
  /** Whether the time shelf's lanes are open. */
  readonly timeOpen: boolean;
  /** Key of the mover that is open. */
  readonly mover: string | null;
  /** Indices of its chosen keys. */
  readonly keysChosen: readonly number[];
  /** What has no effect on the hero, by layer and `layer/step`. */
  readonly idle: Readonly<Record<string, Idle>>;
  /** Changes the look; dials set the look again. */
  change(name: string, to: LookDocument | LookEdit, gesture?: string): void;
  /** Sets a dial of the look, or the clip's trim for it; without a value the trim is removed. */
  turn(name: string, dial: string, value?: DialValue, gesture?: string): void;
  trim(name: string, clip: string, trims: DialValues, gesture?: string): void;
  /** Takes over the trims on the server. */
  heard(trims: TrimsByClip): void;
  trimFor(clip: string | null): void;
  endGesture(): void;
  undo(): void;
  redo(): void;
  choose(c: Chosen | null): void;
  fold(key: string, open?: boolean): void;
  pick(p: Picking | null): void;
  place(p: Placing | null): void;
  /** Registers a handle, or removes it. */
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
  /** Moves a clip's playhead. */
  seek(clip: string, frame: number): void;
  /** Sets the loop of a clip; null for all frames. */
  loop(clip: string, frames: readonly [first: number, last: number] | null): void;
  /** Adds a change outside the look to the history. */
  did(name: string, outside: Outside): void;
  savedAs(number: number, saved: LookDocument): void;
}

/** No chosen keys. */
export const NO_KEYS: readonly number[] = [];

const MOST_STEPS = 300;
const texts = new WeakMap<LookDocument, string>();
const textOf = (look: LookDocument): string => {
  const text = texts.get(look) ?? JSON.stringify(look);
  texts.set(look, text);
  return text;
};
/** Whether the look differs from what is saved. */
export const isUnsaved = (s: Pick<BenchState, 'look' | 'opened'>): boolean =>
  s.look !== s.opened.saved && textOf(s.look) !== textOf(s.opened.saved);

const ofDial = (d: Dial): object => ({ ...d, value: undefined });
const alike = (a: object, b: object): boolean =>
  a === b ||
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every(
    (k) => a[k as never] === b[k as never],
  );
/** Whether two looks differ in their dials' values only. */
export function onlyDialsMoved(a: LookDocument, b: LookDocument): boolean {
  const same =
    a.dials.length === b.dials.length &&
    a.dials.every((d, i) => d === b.dials[i] || alike(ofDial(d), ofDial(b.dials[i]!)));
  return same && alike({ ...a, dials: null }, { ...b, dials: null });
}

/**
 * Longest delay (ms) before a draft is stored during a gesture; it is also stored when the page
 * closes.
 */
const DRAFT_EVERY = 250;

/** A history whose last step, a gesture, changed further trims. */
const joined = (past: readonly Step[], changed: TrimValues): readonly Step[] => {
  const last = past.at(-1);
  if (!last) return past;
  const trims = { ...last.trims };
  for (const [clip, dials] of Object.entries(changed)) trims[clip] = { ...dials, ...trims[clip] };
  return [...past.slice(0, -1), { ...last, trims }];
};

/** Creates the Bench's store. `tab`: the tab's name, which its draft bears. */
export function benchStore(opened: Opened, look: LookDocument, trims: TrimsByClip = {}, tab = '') {
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
      const changed = trimsBefore(own, next.trims ?? own);
      const step = { name, look: before, trims: changed };
      set({
        ...next,
        still: stillAfter(look),
        future: [],
        gesture: gesture ?? null,
        past: same ? joined(past, changed) : [...past.slice(-MOST_STEPS), step],
      });
    };
    /**
     * Goes to the last step of one side of the history; the current state moves to the other side.
     */
    const go = (
      from: 'past' | 'future',
      to: 'past' | 'future',
      act: (o: Outside) => void,
    ): void => {
      const { look: now, trims: own, [from]: steps, [to]: others } = get();
      const next = steps.at(-1);
      if (!next) return;
      if (next.outside) act(next.outside);
      const left = {
        name: next.name,
        look: now,
        trims: valuesAt(own, next.trims),
        outside: next.outside,
      };
      set({
        look: next.look,
        still: stillAfter(next.look),
        trims: withTrimValues(own, next.trims),
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
        const { look: now, past } = get();
        set({
          future: [],
          gesture: null,
          past: [...past.slice(-MOST_STEPS), { name, look: now, trims: {}, outside }],
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
    const now = store.getState(),
      { lookId, number } = now.opened;
    keepDraft(lookId, tab, isUnsaved(now) ? { basedOn: number, look: now.look } : null);
  };
  store.subscribe((s, before) => {
    if (s.look === before.look && s.opened === before.opened) return;
    if (s.gesture === null) keep();
    else waiting ??= setTimeout(keep, DRAFT_EVERY);
  });
  globalThis.addEventListener?.('pagehide', keep);
  return store;
}
/** The Bench's store. */
export type BenchStore = ReturnType<typeof benchStore>;
