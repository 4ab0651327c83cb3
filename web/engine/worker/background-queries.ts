/**
 * What the page asks beside the pictures it shows: surveys, holes, what does nothing. All of it
 * gives way to what is seen.
 */
import {
  answered,
  type CodePlanes,
  type EncodingId,
  goalFigures,
  type GoalFigures,
  holeOf,
  type Idle,
  inDomain,
  checkpoint,
  meanFigures,
  type ImageNode,
  questions,
  toCodes,
  toOklab,
} from '../../../core';
import { type Planes, Cancelled } from '../../../core/engine';
import type { Ask, FromEngine, HoleAsk, Survey } from '../protocol';
import type { ViewRenderer } from './view-renderer';
import type { FrameLoader } from './frame-loader';

/** What is done beside, and by whose leave. */
export interface QueryContext {
  readonly shots: FrameLoader;
  /** What computes; none before the page has set it up. */
  readonly screen: () => Promise<ViewRenderer> | undefined;
  readonly out: () => EncodingId;
  readonly post: (m: FromEngine) => void;
  /** Settled once all that is seen has been shown. */
  readonly inQuiet: () => Promise<void>;
}
const trouble = (e: unknown): FromEngine => ({
  kind: 'trouble',
  serial: 0,
  view: 'hero',
  message: (e as Error).message,
});
const copied = (p: Planes): Planes => ({ ...p, planes: p.planes.map((v) => v.slice()) });

/** Measures a clip under several looks, a frame at a time so that views can be shown between. */
async function survey(
  { id, clip, frames, looks, width, height }: Survey,
  { shots, screen, out, post, inQuiet }: QueryContext,
): Promise<void> {
  const all = looks.map((): GoalFigures[] => []);
  try {
    for (const frame of frames) {
      const raws = await shots.raws({ clip, frame, look: looks[0] ?? null, from: 270 }, looks);
      const computing = screen();
      if (!raws || !computing) break;
      for (const [i, look] of looks.entries()) {
        const { result } = shots.plan({ clip, frame, look, from: 270 }, width, height, raws);
        const { computer } = await computing;
        // What a computer lends is gone with its next call.
        const codes = copied(
          computer.planes(
            computer.compute(checkpoint(toCodes(result, out())), { keepCheckpoints: true }),
          ),
        );
        const lab = computer.planes(
          computer.compute(toOklab(inDomain(result, 'light')), { keepCheckpoints: true }),
        );
        all[i]!.push(goalFigures(codes as CodePlanes, lab));
        await inQuiet();
      }
    }
  } catch (e) {
    post(trouble(e));
  }
  post({
    kind: 'surveyed',
    id,
    figures: all.flatMap((f) => (f.length > 0 ? [meanFigures(f)] : [])),
  });
}

/** Finds the hole of footage in its first frame. */
export async function findHole(
  { id, clip }: HoleAsk,
  { shots, post }: QueryContext,
): Promise<void> {
  let corners: ReturnType<typeof holeOf> = null;
  try {
    const footage = shots.clip(clip);
    if (footage?.format.alpha) {
      const { format, planes } = await shots.frame(footage, 0, 540);
      const top = 2 ** format.depth - 1;
      corners = holeOf(
        Float32Array.from(planes.at(-1)!, (v) => v / top),
        format.width,
        format.height,
      );
    }
  } catch (e) {
    post(trouble(e));
  }
  post({ kind: 'hole', id, corners });
}

/** Finds what of a look does nothing at a shot, unless a newer question has come. */
async function answer(
  { shot, width, height }: Ask,
  { shots, screen, post, inQuiet }: QueryContext,
  overtaken: () => boolean,
): Promise<void> {
  try {
    const raws = await shots.raws(shot);
    const computing = screen();
    if (!raws || !computing || !shot.look) return;
    const { computer } = await computing;
    const moment = shots.moment(shot, width, height, raws);
    // The clip itself is brought to the small size once for all questions.
    const keepCheckpoints = new Set([moment.bedrock.key]);
    const most = (p: ImageNode): number => {
      const planes = computer.planes(computer.compute(p, { keepCheckpoints }));
      let found = 0;
      for (let y = 0; y < planes.height; y++)
        for (const v of planes.planes[0]!.subarray(
          y * planes.stride,
          y * planes.stride + planes.width,
        ))
          found = Math.max(found, Math.abs(v));
      return found;
    };
    const found: Record<string, Idle> = {};
    for (const q of questions(shot.look, moment)) {
      // What is seen goes first, and a newer question is enough.
      await inQuiet();
      if (overtaken()) return;
      const why = answered(q, most);
      if (why) found[q.key] = why;
    }
    post({ kind: 'answered', idle: found });
  } catch (e) {
    if (!(e instanceof Cancelled)) post(trouble(e));
  }
}

/** Surveys and questions one after the other; of questions only the newest is answered. */
export class BackgroundQueries {
  private asked: Ask | undefined;
  private last: Promise<void> = Promise.resolve();
  constructor(private readonly beside: QueryContext) {}

  survey(m: Survey): void {
    this.last = this.last.then(() => survey(m, this.beside));
  }
  ask(m: Ask): void {
    this.asked = m;
    this.last = this.last.then(async () => {
      const newest = this.asked;
      this.asked = undefined;
      if (newest) await answer(newest, this.beside, () => this.asked !== undefined);
    });
  }
}
