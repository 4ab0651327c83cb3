/** A subject through footage: cut out on marked frames, carried from them both ways. */
import type { RawFrame } from '../image';
import { MARKED, type Pair, shotAround } from '../trace';
import { carried } from './carry';
import { binsOf, coloursOf } from './colour';
import { cutOut } from './cut-out';
import { type Matte, refined } from './edge';
import { begun, colourRatios, corrected, type Ready } from './marked';
import type { SubjectGiven, SubjectMark } from './strokes';

/** Where frames and the motion between them come from. */
export interface SubjectSource {
  readonly frame: (at: number) => Promise<RawFrame>;
  /** Motion from a frame to the next. */
  readonly pair: (at: number) => Promise<Pair>;
}
/** The matte of a frame, and how sure it is: 2 where it is marked, else 0…1. */
export interface MadeMatte {
  readonly frame: number;
  readonly matte: Matte;
  readonly sure: number;
}

/** Frames that are kept ready to be cut out. */
const KEPT = 48;
/** Agreement at which a frame adds no doubt, and how much doubt a total disagreement adds. */
const AGREES = 0.93,
  ADDS = 1.6;
/** Doubt that every step adds. */
const STEP = 0.004;
/** Weight of what two ways say where they disagree. */
const WAYS = 3;

interface State {
  readonly labels: Uint8Array;
  readonly sure: number;
}

function readied(raw: RawFrame): Ready {
  const colours = coloursOf(raw);
  return { colours, bins: binsOf(colours) };
}

/** The subject of one shot. */
class Shot {
  private readonly kept = new Map<number, Ready>();
  private marks: Float32Array = new Float32Array();

  constructor(private readonly source: SubjectSource) {}

  private async ready(frame: number): Promise<Ready> {
    const known = this.kept.get(frame);
    if (known) return known;
    const made = readied(await this.source.frame(frame));
    this.kept.set(frame, made);
    for (const oldest of this.kept.keys()) if (this.kept.size > KEPT) this.kept.delete(oldest);
    return made;
  }
  private async made(frame: number, { labels, sure }: State): Promise<MadeMatte> {
    const { colours } = await this.ready(frame);
    return { frame, matte: refined(await this.source.frame(frame), colours, labels), sure };
  }

  /** `marks` in the order in which they were given, all within the shot `first`…`last`. */
  async *mattes(
    marks: readonly SubjectMark[],
    first: number,
    last: number,
  ): AsyncGenerator<MadeMatte> {
    const [start] = marks as readonly [SubjectMark];
    const labels = begun(await this.ready(start.frame), start.strokes);
    this.marks = colourRatios(await this.ready(start.frame), labels);
    const state = { labels, sure: MARKED };
    yield this.made(start.frame, state);
    const inOrder = [...marks].sort((a, b) => a.frame - b.frame),
      at = inOrder.indexOf(start);
    yield* this.side(start.frame, state, inOrder.slice(at + 1), last);
    yield* this.side(start.frame, state, inOrder.slice(0, at).reverse(), first);
  }

  /** One side of where it begins: from mark to mark, then to the end of the shot. */
  private async *side(
    from: number,
    begins: State,
    marks: readonly SubjectMark[],
    end: number,
  ): AsyncGenerator<MadeMatte> {
    let [frame, state] = [from, begins];
    for (const mark of marks) {
      const there: State[] = [];
      const by = Math.sign(mark.frame - frame);
      let at: State = state;
      for (let f = frame; f !== mark.frame; f += by) there.push((at = await this.step(f, by, at)));
      const labels = corrected(await this.ready(mark.frame), at.labels, mark.strokes);
      const next = { labels, sure: MARKED };
      yield this.made(mark.frame, next);
      // And back to the mark before; both ways are joined by their distance.
      let back: State = next;
      const long = Math.abs(mark.frame - frame);
      for (let f = mark.frame; Math.abs(f - frame) > 1; f -= by) {
        back = await this.step(f, -by, back);
        const away = Math.abs(f - by - frame);
        yield this.made(f - by, await this.joined(f - by, there[away - 1]!, back, away / long));
      }
      [frame, state] = [mark.frame, next];
    }
    for (let f = frame; f !== end; f += Math.sign(end - frame)) {
      const by = Math.sign(end - f);
      state = await this.step(f, by, state);
      yield this.made(f + by, state);
    }
  }

  private async step(frame: number, by: number, { labels, sure }: State): Promise<State> {
    const [from, to] = [await this.ready(frame), await this.ready(frame + by)];
    const pair = await this.source.pair(by > 0 ? frame : frame - 1);
    const next = carried({ ...from, labels }, to, pair, by > 0, this.marks);
    const disagrees = Math.max(0, AGREES - next.agreed);
    const doubt = 1 / Math.min(1, sure) - 1 + STEP + ADDS * disagrees * disagrees;
    return { labels: next.labels, sure: 1 / (1 + doubt) };
  }

  /** Two ways in one: where they disagree, by the nearer and by the picture. */
  private async joined(frame: number, a: State, b: State, share: number): Promise<State> {
    const { colours, bins } = await this.ready(frame);
    let apart = 0,
      covered = 0;
    const known = Int8Array.from(a.labels, (v, o) => {
      if (v) covered++;
      if (v === b.labels[o]) return v ? 1 : -1;
      apart++;
      return 0;
    });
    const sure = Math.max(a.sure, b.sure) * (1 - Math.min(1, apart / Math.max(1, covered)));
    if (apart === 0) return { labels: a.labels, sure };
    const evidence = Float32Array.from(
      a.labels,
      (v, o) => 0.5 * this.marks[bins[o]!]! + WAYS * (v ? 1 - 2 * share : 2 * share - 1),
    );
    return { labels: cutOut(colours, known, evidence), sure };
  }
}

/**
 * The mattes of a subject, shot by shot, in the order in which they are made. Shots without a mark
 * have none.
 */
export async function* subjectMattes(
  { marks, cuts }: Pick<SubjectGiven, 'marks' | 'cuts'>,
  frames: number,
  source: SubjectSource,
): AsyncGenerator<MadeMatte> {
  const within = marks.filter((m) => m.frame < frames && m.strokes.length > 0);
  for (let from = 0; from < frames;) {
    const [first, last] = shotAround(from, frames, cuts);
    const own = within.filter((m) => m.frame >= first && m.frame <= last);
    if (own.some((m) => m.strokes.some((s) => s.on)))
      yield* new Shot(source).mattes(
        [...own].sort((a, b) => Number(hasOn(b)) - Number(hasOn(a))),
        first,
        last,
      );
    from = last + 1;
  }
}
const hasOn = ({ strokes }: SubjectMark): boolean => strokes.some((s) => s.on);

/**
 * The frame on which a mark is proposed: the least sure one, of several the first. Undefined where
 * all are marked or nothing is there.
 */
export function nextWorthAMark(sure: readonly (number | undefined)[]): number | undefined {
  const least = Math.min(...sure.map((s) => s ?? Infinity));
  if (!(least < MARKED)) return undefined;
  return sure.findIndex((s) => s === least);
}
