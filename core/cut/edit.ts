/** Changes of a cut. Each gives a new document and leaves the old one as it was. */
import { SOUND_RATE } from '../sound';
import { footageAt } from '../clip';
import type { FrameIndex, Rate, Retime } from '../time';
import {
  allPlaces,
  type CutDocument,
  type CutLook,
  type CutSound,
  endOf,
  type Marker,
  type Place,
  type Row,
} from './document';
import { type CutClip, spareOf, standing } from './standing';
import { inOrder, lastsFor, latestAt, overlapOf } from './times';

/** A key that is not taken. */
export function freshKey(taken: Iterable<string>, stem: string): string {
  const all = new Set(taken);
  for (let n = 1; ; n++) if (!all.has(`${stem}-${n}`)) return `${stem}-${n}`;
}
const keysOf = (cut: CutDocument): string[] => allPlaces(cut).map((p) => p.key);

/** The row of a place. */
export const rowOf = (cut: CutDocument, place: string): Row | undefined =>
  cut.rows.find((r) => r.places.some((p) => p.key === place));
/** A place by its key. */
export const placeOf = (cut: CutDocument, key: string): Place | undefined =>
  allPlaces(cut).find((p) => p.key === key);

const withRow = (cut: CutDocument, key: string, places: readonly Place[]): CutDocument => ({
  ...cut,
  rows: cut.rows.map((r) =>
    r.key === key ? { ...r, places: [...places].sort((a, b) => a.at - b.at) } : r,
  ),
});
/** Changes some places, wherever they stand. */
export const withPlaces = (
  cut: CutDocument,
  keys: readonly string[],
  change: (place: Place) => Place,
): CutDocument =>
  cut.rows.reduce(
    (made, row) =>
      row.places.some((p) => keys.includes(p.key))
        ? withRow(
            made,
            row.key,
            row.places.map((p) => (keys.includes(p.key) ? change(p) : p)),
          )
        : made,
    cut,
  );

/** A clip to be placed: how long (project frames), and from which frame of its footage. */
export interface Placed {
  readonly clip: string;
  readonly in: FrameIndex;
  readonly frames: number;
}
/**
 * Places clips one after another from a frame on, over what stands there. A clip that stands in the
 * cut already gets the next number of chance, so that it does not flutter alike.
 */
export function placed(
  cut: CutDocument,
  row: string,
  at: FrameIndex,
  clips: readonly Placed[],
  chanceOf: (clip: string) => number = () => 0,
): CutDocument {
  let made = cut,
    next = at;
  for (const { clip, in: from, frames } of clips) {
    const twins = allPlaces(made).filter((p) => p.clip === clip);
    const chance =
      twins.length > 0 ? Math.max(...twins.map((p) => p.chance ?? chanceOf(clip))) + 1 : undefined;
    const place: Place = {
      key: freshKey(keysOf(made), 'place'),
      clip,
      at: next,
      frames,
      in: from,
      ...(chance !== undefined && { chance }),
    };
    const { places } = made.rows.find((r) => r.key === row)!;
    made = withRow(made, row, [...places, place]);
    next += frames;
  }
  return made;
}

/** The frame after the last place of a row. */
export const rowEnd = (row: Row | undefined): FrameIndex =>
  (row?.places ?? []).reduce((end, p) => Math.max(end, endOf(p)), 0);

/** Takes places away. `close`: what follows in their rows moves up by as much. */
export function without(cut: CutDocument, keys: readonly string[], close = false): CutDocument {
  return cut.rows.reduce((made, row) => {
    const gone = inOrder(row).filter((p) => keys.includes(p.key));
    if (gone.length === 0) return made;
    const before = (at: FrameIndex): number =>
      gone.filter((p) => p.at < at).reduce((sum, p) => sum + freedBy(row, p, keys), 0);
    const left = row.places.filter((p) => !keys.includes(p.key));
    return withRow(
      made,
      row.key,
      close ? left.map((p) => ({ ...p, at: Math.max(0, p.at - before(p.at)) })) : left,
    );
  }, cut);
}
/** How many frames of its own a place has: those in which no other stands. */
function freedBy(row: Row, place: Place, gone: readonly string[]): number {
  const others = row.places.filter((p) => !gone.includes(p.key));
  const begins = others.reduce(
    (at, p) => (p.at < place.at ? Math.max(at, endOf(p)) : at),
    place.at,
  );
  const ends = others.reduce((at, p) => (p.at >= place.at ? Math.min(at, p.at) : at), endOf(place));
  return Math.max(0, ends - begins);
}

/** Moves places by project frames, as far as the first of them can go; into another row if said. */
export function moved(
  cut: CutDocument,
  keys: readonly string[],
  by: number,
  row?: string,
): CutDocument {
  const all = allPlaces(cut).filter((p) => keys.includes(p.key));
  const least = Math.min(...all.map((p) => p.at)),
    step = Math.max(by, -least);
  const shifted = all.map((p) => ({ ...p, at: p.at + step }));
  if (row === undefined) return withPlaces(cut, keys, (p) => ({ ...p, at: p.at + step }));
  const rest = cut.rows.reduce(
    (made, r) =>
      withRow(
        made,
        r.key,
        r.places.filter((p) => !keys.includes(p.key)),
      ),
    cut,
  );
  return withRow(rest, row, [...rest.rows.find((r) => r.key === row)!.places, ...shifted]);
}

/** What edits need to know of clips. */
export interface Known {
  readonly rate: Rate;
  readonly clip: (id: string) => CutClip | undefined;
}
/** Project frames converted to frames of a clip's footage at its original speed, to the nearest. */
const inFootage = (by: number, clip: CutClip, rate: Rate): number =>
  Math.round((by * rate[1] * clip.rate[0]) / (rate[0] * clip.rate[1]));

/** The retime that a place shows its clip by. */
const retimeOfPlace = ({ retime }: Place, clip: CutClip): Retime | null | undefined =>
  retime === undefined ? clip.retime : retime;
const isBackwards = (place: Place, clip: CutClip): boolean =>
  retimeOfPlace(place, clip)?.backwards ?? false;
/**
 * Frames of the footage that pass in project frames from a place's beginning on: exact along its
 * retime within the place, at the speed of its first frame before it.
 */
function passed(place: Place, by: number, clip: CutClip, rate: Rate): number {
  const retime = retimeOfPlace(place, clip);
  if (!retime) return inFootage(by, clip, rate);
  if (by < 0) return Math.round((inFootage(by, clip, rate) * retime.places[0]!.speed) / 100);
  const { clip: shown, frameAt } = standing(place, clip, rate);
  const at = (frame: number): number => footageAt({ ...shown, lookRetime: null }, frame);
  return Math.abs(at(frameAt(by)) - at(0));
}

/** The most project frames that a place can last from its in, at its speed and under its look. */
export function longest(place: Place, { rate, clip }: Known): number {
  const of = clip(place.clip);
  if (!of) return place.frames;
  const all = standing({ ...place, frames: lastsFor(of.frames * 100, rate, of.rate) }, of, rate);
  return lastsFor(all.frames, rate, of.rate);
}

/** Moves a place's end; the footage's end stops it. What follows stays. */
export function trimmedEnd(cut: CutDocument, key: string, by: number, known: Known): CutDocument {
  return withPlaces(cut, [key], (p) => {
    const of = known.clip(p.clip);
    if (!of || !isBackwards(p, of)) {
      const most = Math.max(p.frames, longest(p, known));
      return { ...p, frames: Math.max(1, Math.min(p.frames + by, most)) };
    }
    // Backwards it ends with its in: what it shows before stays where it is.
    const speed = retimeOfPlace(p, of)!.places[0]!.speed / 100;
    const into = (step: number): number => Math.round(inFootage(step, of, known.rate) * speed);
    let step = Math.max(by, 1 - p.frames);
    while (step > 0 && p.in - into(step) < 0) step--;
    return { ...p, frames: p.frames + step, in: Math.max(0, p.in - into(step)) };
  });
}

/** Moves a place's beginning, its pictures staying where they are; the footage's start stops it. */
export function trimmedStart(cut: CutDocument, key: string, by: number, known: Known): CutDocument {
  return withPlaces(cut, [key], (p) => {
    const of = known.clip(p.clip);
    if (!of) return p;
    const most = p.frames - 1;
    let step = Math.max(-p.at, Math.min(by, most));
    if (isBackwards(p, of)) {
      // It begins at its out, which goes with its length.
      step = Math.max(step, Math.min(0, p.frames - longest(p, known)));
      return { ...p, at: p.at + step, frames: p.frames - step };
    }
    // Frames of the footage go with project frames: as many as are left before its in.
    while (step < 0 && p.in + passed(p, step, of, known.rate) < 0) step++;
    return counted({ ...p, at: p.at + step, frames: p.frames - step }, p, of, known.rate, step);
  });
}
/** A place that begins later by project frames: its in and its chance go along. */
const counted = (place: Place, old: Place, of: CutClip, rate: Rate, by: number): Place => ({
  ...place,
  in: Math.max(0, Math.min(of.frames - 1, old.in + passed(old, by, of, rate))),
  ...(by !== 0 && { counts: (old.counts ?? of.chance.from) + latestAt(by, rate, of.rate) }),
});

/** Shows another stretch of the footage in the same slot. `by`: frames of the footage. */
export function slipped(cut: CutDocument, key: string, by: number, known: Known): CutDocument {
  return withPlaces(cut, [key], (p) => {
    const of = known.clip(p.clip);
    if (!of) return p;
    const { after } = spareOf(p, of, known.rate);
    return { ...p, in: Math.max(0, p.in + Math.min(by, after)) };
  });
}

/** Moves a place between its neighbours, which get longer and shorter; all else stays. */
export function slid(cut: CutDocument, key: string, by: number, known: Known): CutDocument {
  const row = rowOf(cut, key)!,
    ordered = inOrder(row),
    i = ordered.findIndex((p) => p.key === key);
  const [before, own, after] = [ordered[i - 1], ordered[i]!, ordered[i + 1]];
  if (!before || !after || endOf(before) !== own.at || endOf(own) !== after.at)
    return moved(cut, [key], by);
  const roomAfter = (): number => {
    const of = known.clip(after.clip);
    return of ? lastsFor(Math.max(1, after.in), known.rate, of.rate) : 0;
  };
  const step = Math.max(
    -Math.min(before.frames - 1, by < 0 ? roomAfter() : 0),
    Math.min(by, after.frames - 1, longest(before, known) - before.frames),
  );
  const ended = trimmedEnd(cut, before.key, step, known);
  return moved(trimmedStart(ended, after.key, step, known), [key], step);
}

/** Cuts a place in two at a project frame; its halves keep the chance that the whole had. */
export function split(cut: CutDocument, key: string, at: FrameIndex, known: Known): CutDocument {
  const row = rowOf(cut, key),
    place = placeOf(cut, key),
    of = place && known.clip(place.clip);
  if (!row || !place || !of || at <= place.at || at >= endOf(place)) return cut;
  const by = at - place.at;
  const { enters: _, comes: __, ...rest } = place;
  const { frameAt } = standing(place, of, known.rate);
  const tail: Place = {
    ...rest,
    ...{ key: freshKey(keysOf(cut), 'place'), at, frames: place.frames - by },
    counts: (place.counts ?? of.chance.from) + frameAt(by),
  };
  const { goes: ___, ...head } = { ...place, frames: by };
  const far = passed(place, by, of, known.rate);
  // Backwards the first half shows what lies later in the footage.
  const halves = isBackwards(place, of)
    ? [
        {
          ...head,
          in:
            place.in +
            Math.round(
              (inFootage(tail.frames, of, known.rate) *
                retimeOfPlace(place, of)!.places[0]!.speed) /
                100,
            ),
        },
        tail,
      ]
    : [head, { ...tail, in: Math.min(of.frames - 1, place.in + far) }];
  return withRow(cut, row.key, [...row.places.filter((p) => p.key !== key), ...halves]);
}

/** Joins two places that follow on one another in the same footage; undefined if they do not. */
export function joined(cut: CutDocument, key: string, known: Known): CutDocument | undefined {
  const row = rowOf(cut, key);
  if (!row) return undefined;
  const ordered = inOrder(row),
    i = ordered.findIndex((p) => p.key === key);
  const [own, next] = [ordered[i]!, ordered[i + 1]],
    of = known.clip(own.clip);
  if (!next || !of || next.clip !== own.clip || endOf(own) !== next.at) return undefined;
  if (isBackwards(own, of) || JSON.stringify(own.retime) !== JSON.stringify(next.retime))
    return undefined;
  const speed = (retimeOfPlace(own, of)?.places[0]?.speed ?? 100) / 100;
  if (next.in !== own.in + Math.round(inFootage(own.frames, of, known.rate) * speed))
    return undefined;
  return withRow(
    cut,
    row.key,
    row.places.flatMap((p) =>
      p === next ? [] : p === own ? [{ ...own, frames: own.frames + next.frames }] : [p],
    ),
  );
}

/** Moves everything in a row after a frame up to what stands before it. */
export function gapClosed(cut: CutDocument, row: string, at: FrameIndex): CutDocument {
  const { places } = cut.rows.find((r) => r.key === row)!;
  const begins = places.filter((p) => p.at < at).reduce((end, p) => Math.max(end, endOf(p)), 0),
    next = places.filter((p) => p.at >= at).reduce((least, p) => Math.min(least, p.at), Infinity);
  const gap = next - begins;
  if (!Number.isFinite(next) || gap <= 0) return cut;
  return withRow(
    cut,
    row,
    places.map((p) => (p.at >= next ? { ...p, at: p.at - gap } : p)),
  );
}
/** Moves everything in a row from a frame on later, which leaves a gap. */
export const gapOpened = (
  cut: CutDocument,
  row: string,
  at: FrameIndex,
  frames: number,
): CutDocument =>
  withRow(
    cut,
    row,
    cut.rows
      .find((r) => r.key === row)!
      .places.map((p) => (p.at >= at ? { ...p, at: p.at + frames } : p)),
  );

/** Two places take one another's clip and stretch; each slot stays as it is. */
export function swapped(cut: CutDocument, a: string, b: string): CutDocument {
  const [one, two] = [placeOf(cut, a), placeOf(cut, b)];
  if (!one || !two) return cut;
  const { key: _, at: __, frames: ___, enters: ____, ...ofOne } = one,
    { key: _a, at: _b, frames: _c, enters: _d, ...ofTwo } = two;
  const slot = ({
    key,
    at,
    frames,
    enters,
  }: Place): Pick<Place, 'key' | 'at' | 'frames' | 'enters'> => ({
    ...{ key, at, frames },
    ...(enters && { enters }),
  });
  return withPlaces(cut, [a, b], (p) =>
    p.key === a ? { ...ofTwo, ...slot(one) } : { ...ofOne, ...slot(two) },
  );
}

/** What a transition on a straight cut lacks. */
export interface Lacks {
  /** Project frames missing after the one that goes, and before the one that comes. */
  readonly before: number;
  readonly after: number;
}
/**
 * A transition into a place, so many project frames long: on a straight cut both get longer by their
 * spare frames, half each, the odd one to the one that goes. Gives what is missing, with which the
 * overlap is shorter. Null takes the transition off and leaves the overlap.
 */
export function withTransition(
  cut: CutDocument,
  key: string,
  enters: CutLook | null,
  frames: number,
  known: Known,
): { readonly cut: CutDocument; readonly lacks: Lacks } {
  const NONE: Lacks = { before: 0, after: 0 };
  const row = rowOf(cut, key),
    place = placeOf(cut, key);
  if (!row || !place) return { cut, lacks: NONE };
  const set = (on: CutDocument): CutDocument =>
    withPlaces(on, [key], ({ enters: _, ...p }) => (enters ? { ...p, enters } : p));
  const ordered = inOrder(row),
    before = ordered[ordered.indexOf(place) - 1];
  if (!enters || !before) return { cut: set(cut), lacks: NONE };
  const have = overlapOf(row, place),
    wanted = Math.max(0, frames - (have ? have.to - have.from : 0));
  if (!have && endOf(before) !== place.at) return { cut: set(cut), lacks: NONE };
  const forBefore = Math.ceil(wanted / 2),
    forAfter = wanted - forBefore;
  const one = trimmedEnd(cut, before.key, forBefore, known),
    two = trimmedStart(one, key, -forAfter, known);
  const grown = placeOf(one, before.key)!.frames - before.frames,
    led = place.at - placeOf(two, key)!.at;
  return { cut: set(two), lacks: { before: forBefore - grown, after: forAfter - led } };
}

/** Gives places one length after another; each begins where the one before ends. */
export function lengths(
  cut: CutDocument,
  keys: readonly string[],
  frames: (index: number) => number,
  known: Known,
): CutDocument {
  const all = allPlaces(cut)
    .filter((p) => keys.includes(p.key))
    .sort((a, b) => a.at - b.at);
  let next = all[0]?.at ?? 0;
  const made = new Map<string, Place>();
  all.forEach((p, i) => {
    const wanted = Math.max(1, Math.round(frames(i)));
    made.set(p.key, { ...p, at: next, frames: Math.min(wanted, longest(p, known)) });
    next += wanted;
  });
  return withPlaces(cut, keys, (p) => made.get(p.key)!);
}

/** The project frame nearest to a time in seconds. */
const frameOf = (seconds: number, rate: Rate): FrameIndex =>
  Math.floor((seconds * rate[0]) / rate[1] + 0.5);
/**
 * Cuts places to beats: the first begins on the beat nearest to where it begins, and each lasts for
 * so many beats, or to the beat that is nearest to the end of the footage. `beats`: seconds of the
 * cut.
 */
export function toBeats(
  cut: CutDocument,
  keys: readonly string[],
  beats: readonly number[],
  every: number,
  known: Known,
): CutDocument {
  const all = allPlaces(cut)
    .filter((p) => keys.includes(p.key))
    .sort((a, b) => a.at - b.at);
  if (all.length === 0 || beats.length < 2) return cut;
  const first = all[0]!;
  // After the last beat it goes on at the mean of those there are.
  const step = (beats.at(-1)! - beats[0]!) / (beats.length - 1);
  const more = Array.from({ length: all.length * every }, (_, i) => beats.at(-1)! + (i + 1) * step);
  const frames = [...beats, ...more].map((b) => frameOf(b, known.rate));
  let at = frames.reduce(
    (best, f, i) => (Math.abs(f - first.at) < Math.abs(frames[best]! - first.at) ? i : best),
    0,
  );
  const made = new Map<string, Place>();
  for (const p of all) {
    const begins = frames[at] ?? frames.at(-1)!,
      most = longest(p, known);
    let to = Math.min(frames.length - 1, at + every);
    while (to > at + 1 && frames[to]! - begins > most) to--;
    const lasts = Math.max(1, (frames[to] ?? begins) - begins);
    made.set(p.key, { ...p, at: begins, frames: Math.min(lasts, most) });
    at = to;
  }
  return withPlaces(cut, keys, (p) => made.get(p.key)!);
}

/** Where a clip's own sound lies in a sound of the cut: see `Alignment`. */
export interface InStep {
  readonly offset: number;
  readonly drift: number;
}
/**
 * Lays places in step with a sound that stands in the cut, by the sounds of their clips: slots stay,
 * and each shows the stretch of its take that was shot to what is heard there, exact in its middle. A
 * slot that reaches beyond its take begins where the take does. Places without an entry stay.
 */
export function inStep(
  cut: CutDocument,
  sound: CutSound,
  steps: ReadonlyMap<string, InStep>,
  { rate, clip }: Known,
): CutDocument {
  const seconds = (frames: number, of: Rate): number => (frames * of[1]) / of[0];
  return withPlaces(cut, [...steps.keys()], (p) => {
    const of = clip(p.clip),
      step = steps.get(p.key)!;
    if (!of) return p;
    const middle = seconds(p.at + p.frames / 2, rate);
    /** Second of the take at a second of the cut. */
    const inTake = (at: number): number =>
      (at + (sound.from - sound.at) / SOUND_RATE - step.offset) / (1 + step.drift);
    const half = seconds(p.frames / 2, rate);
    const first = frameOf(inTake(middle) - half, of.rate);
    if (first >= 0) return { ...p, in: Math.min(of.frames - 1, first) };
    // The take begins later: so does the place, as far as its end allows.
    const late = Math.min(
      p.frames - 1,
      Math.ceil((-first * of.rate[1] * rate[0]) / (of.rate[0] * rate[1])),
    );
    return { ...p, at: p.at + late, frames: p.frames - late, in: 0 };
  });
}

/** Another sound in place of one, heard at the same moments of the music. */
export function soundReplaced(
  cut: CutDocument,
  key: string,
  by: { readonly id: string; readonly samples: number },
  { offset }: Pick<InStep, 'offset'>,
): CutDocument {
  const old = cut.sounds.find((s) => s.key === key);
  if (!old) return cut;
  // `offset`: second of the old one at which the new one begins.
  const from = old.from - Math.round(offset * SOUND_RATE),
    late = Math.max(0, -from);
  const begins = Math.max(0, from);
  return soundChanged(cut, key, {
    sound: by.id,
    at: old.at + late,
    from: Math.min(begins, by.samples - 1),
    samples: Math.max(1, Math.min(old.samples - late, by.samples - begins)),
  });
}

/** Puts a sound into the cut. */
export function withSound(cut: CutDocument, sound: Omit<CutSound, 'key'>): CutDocument {
  const key = freshKey(
    cut.sounds.map((s) => s.key),
    'sound',
  );
  return {
    ...cut,
    sounds: [...cut.sounds, { ...sound, key }],
    ...(cut.sounds.length === 0 && { song: key }),
  };
}
/** Changes a sound of the cut; null takes it away. */
export const soundChanged = (
  cut: CutDocument,
  key: string,
  change: Partial<Omit<CutSound, 'key'>> | null,
): CutDocument => {
  const sounds = cut.sounds.flatMap((s) =>
    s.key !== key ? [s] : change ? [{ ...s, ...change }] : [],
  );
  const { song, ...rest } = cut;
  return { ...rest, sounds, ...(song && sounds.some((s) => s.key === song) && { song }) };
};

/** Makes a row material for pins below it, or shows it. */
export const withMaterial = (cut: CutDocument, row: string, material: boolean): CutDocument => ({
  ...cut,
  rows: cut.rows.map((r) => {
    const { material: _, ...shown } = r;
    return r.key !== row ? r : material ? { ...shown, material } : shown;
  }),
});
/** Lets a row above answer a pin of a place's look; undefined leaves it to the clip. */
export const withAnswer = (
  cut: CutDocument,
  place: string,
  pin: string,
  row: string | undefined,
): CutDocument =>
  withPlaces(cut, [place], ({ answers, ...p }) => {
    const others = Object.entries(answers ?? {}).filter(([key]) => key !== pin);
    const all = Object.fromEntries(row === undefined ? others : [...others, [pin, row]]);
    return Object.keys(all).length > 0 ? { ...p, answers: all } : p;
  });

/** A row above all others; an empty one that lies there already is taken. */
export function withNewRow(cut: CutDocument, name: string): CutDocument {
  const top = cut.rows.at(-1)!;
  if (cut.rows.length > 1 && top.places.length === 0) return cut;
  const key = freshKey(
    cut.rows.map((r) => r.key),
    'row',
  );
  return { ...cut, rows: [...cut.rows, { key, name, places: [] }] };
}

/** Sets a marker at a frame, gives it other words, or takes it away with none. */
export function marked(cut: CutDocument, at: FrameIndex, words: string): CutDocument {
  const old = cut.markers.find((m) => m.at === at),
    others = cut.markers.filter((m) => m !== old);
  if (words === '') return { ...cut, markers: others };
  const marker: Marker = {
    key:
      old?.key ??
      freshKey(
        cut.markers.map((m) => m.key),
        'marker',
      ),
    at,
    words,
  };
  return { ...cut, markers: [...others, marker].sort((a, b) => a.at - b.at) };
}

/** Project frames that something may snap to: cuts, markers and beats (seconds), in order. */
export function snapsOf(
  cut: CutDocument,
  beats: readonly number[],
  rate: Rate,
  but: readonly string[] = [],
): FrameIndex[] {
  const places = allPlaces(cut).filter((p) => !but.includes(p.key));
  const all = [
    ...places.flatMap((p) => [p.at, endOf(p)]),
    ...cut.markers.map((m) => m.at),
    ...beats.map((b) => frameOf(b, rate)),
  ];
  return [...new Set(all)].sort((a, b) => a - b);
}
