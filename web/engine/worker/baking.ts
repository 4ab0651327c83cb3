/**
 * Pictures of a clip's frames that are looked up or computed ahead: for playing, and to be kept.
 */
import { type ImageNode, frameKeyOf, toCodes } from '../../../core';
import { Cancelled } from '../../../core/engine';
import type { AtHand, Bake, ForKiln, FromEngine, View } from '../protocol';
import type { FrameLoader } from './frame-loader';
import type { PictureStore } from './picture-store';
import type { ViewRenderer } from './view-renderer';
import type { ServerBakes } from './server-bakes';

/** What is done beside, and by whose leave. */
export interface Ahead {
  readonly shots: FrameLoader;
  readonly screen: () => Promise<ViewRenderer> | undefined;
  readonly pictures: Promise<PictureStore>;
  readonly elsewhere: ServerBakes;
  /** The code values that a view shows. */
  readonly codesOf: (view: View, raws: Parameters<FrameLoader['plan']>[3]) => ImageNode;
  readonly post: (m: FromEngine) => void;
  /** Settled once all that is seen has been shown. */
  readonly inQuiet: () => Promise<void>;
  /** Number of the newest request; what nobody sees gives way to it in the middle of a picture. */
  readonly newest: () => number;
}

/**
 * Who asks for frames one after the other (a drag, scrubbing, playing) is not disturbed: it has
 * been quiet for so long (ms).
 */
const CALM = 250;

/** Under this name pictures are drawn that no view shows. */
const UNSEEN = 'ahead';

export class Baking {
  private latestAsked = 0;
  private running = 0;
  constructor(private readonly by: Ahead) {}

  /**
   * The key of a view's picture, without a frame being decoded; undefined of a clip of which none
   * ever was.
   */
  async keyOf(view: View): Promise<string | undefined> {
    const { shots, screen, codesOf } = this.by;
    const raws = await shots.expected(view);
    const on = await screen();
    return raws && on && frameKeyOf(on.backEnd, view, codesOf(view, raws));
  }

  /**
   * The key of the same picture as the server's workers keep it: exact, and computed on a
   * processor.
   */
  private async keyElsewhere(view: View): Promise<string | undefined> {
    const { shots, codesOf } = this.by,
      exact = { ...view, from: 'exact' as const };
    const raws = await shots.expected(exact);
    return raws && frameKeyOf('simd', exact, codesOf(exact, raws));
  }
  /** The keys of the same frame as the samples of deliveries, as workers keep them for the Kiln. */
  private async keysForKiln(view: View, { samples, width, height, encoding }: ForKiln) {
    const { shots } = this.by,
      exact = { ...view, width, height, from: 'exact' as const };
    const raws = await shots.expected(exact);
    if (!raws) return [];
    const codes = toCodes(shots.plan(exact, width, height, raws).result, encoding);
    return samples.map((as) => frameKeyOf(as, exact, codes));
  }
  /** A view's finished picture, where one is at hand here or baked by workers. */
  async find(view: View): Promise<{ readonly key: string; readonly image: ImageData } | undefined> {
    const { pictures, elsewhere } = this.by;
    const kept = await pictures;
    const key = await this.keyOf(view);
    if (key === undefined) return undefined;
    const found = await kept.find(key);
    if (found) return { key, image: found };
    if (!elsewhere.any) return undefined;
    const name = await this.keyElsewhere(view);
    const file = name !== undefined && elsewhere.has(name) ? await elsewhere.file(name) : undefined;
    if (!file) return undefined;
    const image = await kept.taken(file);
    kept.keep(key, image);
    return { key, image };
  }

  private serialSeen = -1;
  /** Settled once nothing new has been asked for during a while. */
  private async calm(): Promise<void> {
    const { newest, inQuiet } = this.by;
    while (this.serialSeen !== newest()) {
      this.serialSeen = newest();
      await new Promise((resolve) => setTimeout(resolve, CALM));
    }
    await inQuiet();
  }

  /** Which frames of a view are at hand; only the latest question is answered. */
  async atHand({ id, view, frames, kiln }: AtHand): Promise<void> {
    this.latestAsked = id;
    const { pictures, post, elsewhere } = this.by;
    const kept = await pictures;
    const some = await elsewhere.some();
    const states: ('baked' | 'kept' | null)[] = [];
    const names: (string | undefined)[] = [];
    const forKiln: (readonly string[])[] = [];
    for (const frame of frames) {
      await this.calm();
      if (this.latestAsked !== id) return;
      const at = { ...view, frame };
      const key = await this.keyOf(at).catch(() => undefined);
      states.push((key !== undefined && (await kept.state(key))) || null);
      names.push(
        some && states.at(-1) !== 'baked'
          ? await this.keyElsewhere(at).catch(() => undefined)
          : undefined,
      );
      forKiln.push(some ? await this.keysForKiln(at, kiln).catch(() => []) : []);
    }
    await elsewhere.ask([...names.filter((n) => n !== undefined), ...forKiln.flat()]);
    if (this.latestAsked !== id) return;
    for (const [i, name] of names.entries())
      if (name !== undefined && elsewhere.has(name)) states[i] = 'baked';
    post({
      kind: 'at-hand',
      id,
      states,
      kiln: forKiln.map((keys) => keys.some((k) => elsewhere.has(k))),
      total: await kept.total(),
      canBake: kept.canBake,
    });
  }

  /**
   * Computes a view's picture and keeps it in memory; gives way to a newer request. Throws
   * `Cancelled`.
   */
  async prepare(
    view: View,
  ): Promise<{ readonly key: string; readonly image: ImageData } | undefined> {
    const { shots, screen, codesOf, pictures, newest } = this.by;
    const kept = await pictures;
    const found = await this.find(view);
    if (found) return found;
    const serial = newest();
    const raws = await shots.raws(view),
      on = await screen();
    if (!raws || !on) return undefined;
    const codes = codesOf(view, raws);
    (await on.draw(UNSEEN, codes, new Set(), () => newest() > serial)).close();
    const image = await on.pixelsOf(UNSEEN);
    if (!image) return undefined;
    const made = frameKeyOf(on.backEnd, view, codes);
    kept.keep(made, image);
    return { key: made, image };
  }

  /**
   * Bakes frames one after the other, until it is stopped; what is there already is left as it is.
   */
  async bake({ id, view, frames }: Bake): Promise<void> {
    this.running = id;
    const { pictures, post } = this.by;
    const kept = await pictures;
    let done = 0;
    const report = (ended: 'done' | 'stopped' | null, trouble: string | null = null) =>
      post({ kind: 'baking', id, done, of: frames.length, ended, trouble });
    try {
      for (const frame of frames) {
        for (let tried = false; !tried;) {
          await this.calm();
          if (this.running !== id) return report('stopped');
          tried = await this.one(kept, { ...view, frame });
        }
        done++;
        report(null);
      }
      report('done');
    } catch (e) {
      report('stopped', (e as Error).message);
    }
  }
  /** False where something that is seen came between: then it is tried again. */
  private async one(kept: PictureStore, view: View): Promise<boolean> {
    const key = await this.keyOf(view);
    if (key !== undefined && (await kept.state(key)) === 'baked') return true;
    try {
      const made = await this.prepare(view);
      if (made) await kept.bake(made.key, made.image);
      return true;
    } catch (e) {
      if (e instanceof Cancelled) return false;
      throw e;
    }
  }
  stop(): void {
    this.running = 0;
  }
  async clear(): Promise<void> {
    await (await this.by.pictures).clear();
  }
}
