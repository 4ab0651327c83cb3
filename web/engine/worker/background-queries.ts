/**
 * Questions of the page besides pictures: surveys, holes, parts without effect. All yield to
 * visible pictures.
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
  topCode,
} from '../../../core';
import { type Planes, Cancelled } from '../../../core/engine';
import type { Ask, FromEngine, HoleAsk, Survey } from '../protocol';
import type { ViewRenderer } from './view-renderer';
import type { FrameLoader } from './frame-loader';

/** What background queries use. */
export interface QueryContext {
  readonly shots: FrameLoader;
  /** The renderer; undefined before setup. */
  readonly screen: () => Promise<ViewRenderer> | undefined;
  readonly out: () => EncodingId;
  readonly post: (m: FromEngine) => void;
  /** Resolves when all visible views are shown. */
  readonly inQuiet: () => Promise<void>;
}
const trouble = (e: unknown): FromEngine => ({
  kind: 'trouble',
  serial: 0,
  view: 'hero',
  message: (e as Error).message,
});
const copied = (p: Planes): Planes => ({ ...p, planes: p.planes.map((v) => v.slice()) });

/**
 * Measures a clip under several looks, one frame at a time, so that views can be shown in between.
 */
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
        // Copies, because the computer's results are valid until its next call only.
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
      const top = topCode(format);
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

/** Finds the parts of a look without effect, unless a newer question has arrived. */
async function answer(
  { id, shot, width, height }: Ask,
  { shots, screen, post, inQuiet }: QueryContext,
  overtaken: () => boolean,
): Promise<void> {
  try {
    const raws = await shots.raws(shot);
    const computing = screen();
    if (!raws || !computing || !shot.look) return;
    const { computer } = await computing;
    const moment = shots.moment(shot, width, height, raws);
    // The clip is scaled to the small size once for all questions.
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
      // Visible pictures come first, and a newer question replaces this one.
      await inQuiet();
      if (overtaken()) return;
      const why = answered(q, most);
      if (why) found[q.key] = why;
    }
    post({ kind: 'answered', id, idle: found });
  } catch (e) {
    if (!(e instanceof Cancelled)) post(trouble(e));
  }
}

/** Runs surveys and questions one after another; only the newest question is answered. */
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
