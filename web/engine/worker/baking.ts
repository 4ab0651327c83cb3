/** Pictures of frames that are looked up or computed ahead, for playing and baking. */
import { type ImageNode, frameKeyOf, toCodes } from '../../../core';
import { Cancelled } from '../../../core/engine';
import type { AtHand, Bake, ForKiln, FromEngine, View } from '../protocol';
import type { FrameLoader } from './frame-loader';
import type { PictureStore } from './picture-store';
import type { ViewRenderer } from './view-renderer';
import type { ServerBakes } from './server-bakes';

/** What it uses. */
export interface Ahead {
  readonly shots: FrameLoader;
  readonly screen: () => Promise<ViewRenderer> | undefined;
  readonly pictures: Promise<PictureStore>;
  readonly elsewhere: ServerBakes;
  /** The code values of a view. */
  readonly codesOf: (view: View, raws: Parameters<FrameLoader['plan']>[3]) => ImageNode;
  readonly post: (m: FromEngine) => void;
  /** Resolves when all visible views are shown. */
  readonly inQuiet: () => Promise<void>;
  /** Number of the newest request; invisible work yields to it within a picture. */
  readonly newest: () => number;
}

/**
 * Time without requests (ms) after which baking continues, so that dragging, scrubbing and playing
 * are not disturbed.
 */
const CALM = 250;

/** Name of the view for pictures that are not shown. */
const UNSEEN = 'ahead';

/** Looks up, prepares and bakes frames. */
export class Baking {
  private latestAsked = 0;
  private running = 0;
  constructor(private readonly by: Ahead) {}

  /**
   * Cache key of a view's picture, without decoding; undefined if no frame of the clip was ever
   * decoded.
   */
  async keyOf(view: View): Promise<string | undefined> {
    const { shots, screen, codesOf } = this.by;
    const raws = await shots.expected(view);
    const on = await screen();
    return raws && on && frameKeyOf(on.backEnd, view, codesOf(view, raws));
  }

  /** Cache key of the same picture as workers keep it: exact, and computed on a CPU. */
  private async keyElsewhere(view: View): Promise<string | undefined> {
    const { shots, codesOf } = this.by,
      exact = { ...view, from: 'exact' as const };
    const raws = await shots.expected(exact);
    return raws && frameKeyOf('simd', exact, codesOf(exact, raws));
  }
  /** Cache keys of the same frame as samples of deliveries, as workers keep them for the Kiln. */
  private async keysForKiln(view: View, { samples, width, height, encoding }: ForKiln) {
    const { shots } = this.by,
      exact = { ...view, width, height, from: 'exact' as const };
    const raws = await shots.expected(exact);
    if (!raws) return [];
    const codes = toCodes(shots.plan(exact, width, height, raws).result, encoding);
    return samples.map((as) => frameKeyOf(as, exact, codes));
  }
  /** A finished picture of a view, from here or baked by workers. */
  async find(view: View): Promise<{ readonly key: string; readonly image: ImageData } | undefined> {
    const { pictures, elsewhere } = this.by;
    const kept = await pictures;
    const key = await this.keyOf(view);
    if (key === undefined) return undefined;
    const found = await kept.find(key);
    if (found) return { key, image: found };
    // Of a cut nobody asks beforehand which of its frames are baked: they are looked for one by one.
    const isCut = view.cut !== undefined;
    if (!(isCut ? await elsewhere.mayHave() : elsewhere.any)) return undefined;
    const name = await this.keyElsewhere(view);
    const file =
      name !== undefined && (isCut || elsewhere.has(name)) ? await elsewhere.file(name) : undefined;
    if (!file) return undefined;
    const image = await kept.taken(file);
    kept.keep(key, image);
    return { key, image };
  }

  private serialSeen = -1;
  /** Resolves when nothing new has been requested for a while. */
  private async calm(): Promise<void> {
    const { newest, inQuiet } = this.by;
    while (this.serialSeen !== newest()) {
      this.serialSeen = newest();
      await new Promise((resolve) => setTimeout(resolve, CALM));
    }
    await inQuiet();
  }

  /** Answers which frames of a view are available; only the latest question is answered. */
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

  /** Computes a view's picture into memory; yields to newer requests. Throws `Cancelled`. */
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

  /** Bakes frames one after another until stopped; existing ones are skipped. */
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
  /** False if something visible interrupted it; it is then retried. */
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
