/**
 * The picture of a cut at a project frame: the places that stand there, under their looks, overlaps
 * under transitions, rows over one another, and one look over everything.
 */
import { type Size, timeOf } from '../clip';
import { blend, clear } from '../compositing';
import type { ImageNode } from '../graph';
import { type LookDocument, underLook } from '../look';
import { type ClipFrame, plan } from '../plan';
import type { ClipTime, FrameIndex, Rate } from '../time';
import { type CutDocument, type CutLook, type Place, type Row } from './document';
import { type CutClip, type Standing, standing, standingFacts } from './standing';
import { firstShowing, lengthOfCut, overlapOf, standingAt } from './times';

/** A cut with everything that it names. */
export interface Cut<C extends CutClip = CutClip> {
  readonly document: CutDocument;
  /** Rate of the project. */
  readonly rate: Rate;
  /** Clips by their ids. A place whose clip is missing shows nothing. */
  readonly clips: Readonly<Record<string, C>>;
  /** Looks of transitions and of the whole, by what the document names them. */
  readonly looks: Readonly<Record<string, LookDocument>>;
}

/** A frame of a clip at its place. */
export interface CutShot<C extends CutClip = CutClip> {
  readonly place: Place;
  readonly standing: Standing<C>;
  /** Of that clip, counted from the place's in. */
  readonly frame: FrameIndex;
  /** What answers pins of its look at frames of that clip, by their keys; see `withAnswers`. */
  readonly answered?: Answered | undefined;
}
/** Pictures that answer pins of footage at a frame of a clip. */
export type Answered = (frame: FrameIndex) => Readonly<Record<string, ImageNode>>;
/** A clip's frame, and every other that it leads to, with pictures that answer pins of footage. */
export function withAnswers(clip: ClipFrame, answered: Answered | undefined): ClipFrame {
  if (!answered) return clip;
  const { at } = clip;
  return {
    ...clip,
    footage: { ...clip.footage, ...answered(clip.frame) },
    at:
      at &&
      ((frame) => {
        const there = at(frame);
        return there && withAnswers(there, answered);
      }),
  };
}
/** Gives the picture of a shot under its look, at the size that was asked for. */
export type ShotPicture<C extends CutClip = CutClip> = (shot: CutShot<C>) => ImageNode;

/** The share of a place's picture at one of its frames: its opacity, coming and going. */
function shareAt({ opacity = 100, comes = 0, goes = 0, frames }: Place, frame: number): number {
  const share = (n: number, of: number): number => (n < of ? (n + 0.5) / of : 1);
  return (opacity / 100) * share(frame, comes) * share(frames - 1 - frame, goes);
}

/** What transitions and a look over everything take for a clip. */
interface Made {
  /** Names it in seeds. */
  readonly content: string;
  readonly time: ClipTime;
  /** Its picture, and the footage that answers pins, at each of its frames. */
  readonly at: (frame: FrameIndex) => Pick<ClipFrame, 'bedrock' | 'footage'>;
}
/** A frame of something that is made from other pictures, as looks see clips. */
function madeFrame(made: Made, frame: FrameIndex): ClipFrame {
  const known = new Map<FrameIndex, ClipFrame>();
  const at = (index: FrameIndex): ClipFrame | undefined => {
    if (index < 0 || index >= made.time.frames) return undefined;
    const found = known.get(index);
    if (found) return found;
    const { content, time } = made,
      pictures = made.at(index);
    // Only what a look takes is asked for.
    const fresh: ClipFrame = {
      get bedrock() {
        return pictures.bedrock;
      },
      get footage() {
        return pictures.footage;
      },
      content,
      time,
      frame: index,
      at,
    };
    known.set(index, fresh);
    return fresh;
  };
  return at(frame)!;
}

/** The pictures of a cut at a size. */
class Pictures<C extends CutClip> {
  private readonly wholes = new Map<FrameIndex, ImageNode>();
  private readonly shots = new Map<string, ImageNode>();
  private readonly nothing: ImageNode;
  readonly frames: number;

  constructor(
    private readonly cut: Cut<C>,
    size: Size,
    private readonly shot: ShotPicture<C>,
  ) {
    this.nothing = clear(size.width, size.height);
    this.frames = lengthOfCut(cut.document, cut.rate);
  }

  at(frame: FrameIndex): ImageNode {
    const { whole } = this.cut.document,
      look = whole && this.cut.looks[whole.look];
    if (!whole || !look) return this.rows(frame);
    const time: ClipTime = { frames: this.frames, rate: this.cut.rate, cues: {} };
    const pictures = (index: FrameIndex): Pick<ClipFrame, 'bedrock'> => {
      const rows = (): ImageNode => this.rows(index);
      return {
        get bedrock() {
          return rows();
        },
      };
    };
    return plan(look, madeFrame({ content: 'cut', time, at: pictures }, frame), whole.dials).result;
  }

  private rows(frame: FrameIndex): ImageNode {
    const known = this.wholes.get(frame);
    if (known) return known;
    const made = this.cut.document.rows.reduce(
      (below, row) => (row.material ? below : this.over(below, row, standingAt(row, frame), frame)),
      this.nothing,
    );
    this.wholes.set(frame, made);
    return made;
  }

  /** Places of a row over what lies below, the first of them lowest. */
  private over(below: ImageNode, row: Row, places: readonly Place[], frame: FrameIndex): ImageNode {
    return places.reduce((under, place, i) => {
      const share = shareAt(place, frame - place.at);
      const entered = i > 0 ? this.entered(row, place, frame) : undefined;
      // A transition stands for both of its sides.
      if (entered) return blend('normal', below, entered, 1);
      const own = this.own(place, frame);
      return own && share > 0 ? blend(place.blend ?? 'normal', under, own, share) : under;
    }, below);
  }

  /** The picture of a place under its look; undefined if its clip is missing. */
  private own(place: Place, frame: FrameIndex): ImageNode | undefined {
    const clip = this.cut.clips[place.clip];
    if (!clip) return undefined;
    const stands = standing(place, clip, this.cut.rate);
    const at = stands.frameAt(frame - place.at),
      name = `${place.key} ${at}`;
    const known = this.shots.get(name);
    if (known) return known;
    const answered = this.answeredAt(place, stands);
    const made = this.shot({ place, standing: stands, frame: at, ...(answered && { answered }) });
    this.shots.set(name, made);
    return made;
  }

  /** What rows above answer of a place's pins; undefined if none does. */
  private answeredAt(place: Place, { clip }: Standing<C>): Answered | undefined {
    const { rows } = this.cut.document,
      own = rows.findIndex((r) => r.places.includes(place));
    // Only rows above: so nothing depends on itself. A look with a frame of its own keeps its footage.
    const pins = Object.entries(place.answers ?? {}).flatMap(([pin, key]) => {
      const row = rows.findIndex((r) => r.key === key);
      return row > own && clip.look && !clip.look.frame ? [[pin, rows[row]!] as const] : [];
    });
    if (pins.length === 0) return undefined;
    return (frame) => {
      const there = place.at + firstShowing(frame, this.cut.rate, clip.rate);
      return Object.defineProperties(
        {},
        Object.fromEntries(
          pins.map(([pin, row]) => [
            pin,
            {
              enumerable: true,
              get: () => this.over(this.nothing, row, standingAt(row, there), there),
            },
          ]),
        ),
      ) as Record<string, ImageNode>;
    };
  }

  /** A place and those before it, under the transition into it; undefined if there is none. */
  private entered(row: Row, place: Place, frame: FrameIndex): ImageNode | undefined {
    const { enters } = place,
      look = enters && this.cut.looks[enters.look];
    const overlap = enters && look ? overlapOf(row, place) : undefined;
    if (!enters || !look || !overlap || frame >= overlap.to) return undefined;
    return plan(look, this.transition(row, place, enters, overlap.from, overlap.to, frame), {
      ...enters.dials,
    }).result;
  }

  private transition(
    row: Row,
    place: Place,
    { look: name }: CutLook,
    from: FrameIndex,
    to: FrameIndex,
    frame: FrameIndex,
  ): ClipFrame {
    const asks = (this.cut.looks[name]?.pins ?? []).filter((p) => p.side);
    const at = (index: FrameIndex): Pick<ClipFrame, 'bedrock' | 'footage'> => {
      const there = from + index;
      const before = (): ImageNode =>
        this.over(
          this.nothing,
          row,
          standingAt(row, there).filter((p) => p !== place && isBefore(row, p, place)),
          there,
        );
      const after = (): ImageNode => this.own(place, there) ?? this.nothing;
      const footage = Object.defineProperties(
        {},
        Object.fromEntries(
          asks.map((p) => [p.key, { enumerable: true, get: p.side === 'after' ? after : before }]),
        ),
      ) as Record<string, ImageNode>;
      return {
        get bedrock() {
          return before();
        },
        footage,
      };
    };
    const hashes = [...standingAt(row, from), place].map((p) => this.cut.clips[p.clip]?.hash ?? '');
    const time: ClipTime = {
      frames: to - from,
      rate: this.cut.rate,
      cues: {},
      ...(place.chance !== undefined && { chance: { number: place.chance, from: 0 } }),
    };
    return madeFrame({ content: hashes.join(' '), time, at }, frame - from);
  }
}

const isBefore = (row: Row, a: Place, b: Place): boolean =>
  a.at < b.at || (a.at === b.at && row.places.indexOf(a) < row.places.indexOf(b));

/**
 * The picture of a cut at a project frame, in linear light or encoded, as its last blend left it.
 * `shot` is asked for what it takes, and for nothing else.
 */
export const cutPicture = <C extends CutClip>(
  cut: Cut<C>,
  frame: FrameIndex,
  size: Size,
  shot: ShotPicture<C>,
): ImageNode => new Pictures(cut, size, shot).at(frame);

/** Asking needs no picture: what is asked for does not depend on them. */
const SMALL = { width: 16, height: 9 };

/** The shots that a project frame is made from, each once, in the order in which they are asked for. */
export function cutShots<C extends CutClip>(cut: Cut<C>, frame: FrameIndex): CutShot<C>[] {
  const asked: CutShot<C>[] = [];
  cutPicture(cut, frame, SMALL, (shot) => {
    asked.push(shot);
    return shot.answered ? outlined(cut, shot) : clear(SMALL.width, SMALL.height);
  });
  return asked;
}

/** A shot planned on empty pictures, so that rows that answer its pins are asked as its look asks. */
function outlined({ rate }: Cut, { standing: stands, frame, answered }: CutShot): ImageNode {
  const facts = standingFacts(stands, rate),
    { look } = stands.clip;
  const clip = underLook(facts, look);
  const time = timeOf({ ...clip, pins: clip.pins ?? {} });
  const at = (index: FrameIndex): ClipFrame => ({
    bedrock: clear(SMALL.width, SMALL.height),
    ...{ content: facts.content, frame: index, time, at },
  });
  return plan({ ...look!, bedrock: true }, withAnswers(at(frame), answered)).result;
}
