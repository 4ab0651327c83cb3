/**
 * Motion of clips, fetched pair by pair on demand. Missing pairs are requested again once more is
 * measured.
 */
import { type LookDocument, matteCovering, type PairAtHand, type Speeds } from '../../../core';
import { packedSize, unpackPair } from '../../../core/trace';
import type { EngineClip } from '../protocol';

const KEPT_BYTES = 96 * 2 ** 20;

/** Motion of clips, with a cache. */
export class Motions {
  private readonly kept = new Map<string, Uint8Array>();
  private bytes = 0;
  /** Share of a clip's motion that was measured when a pair was missing. */
  private readonly missed = new Map<string, number>();

  private readonly speeds = new Map<
    string,
    { readonly of: string; readonly known: Promise<Speeds> }
  >();

  /**
   * Speeds of the motion, or of what a look's matte covers; undefined if nothing is measured.
   * Requested again once more is measured.
   */
  async speedsUnder(clip: EngineClip, look: LookDocument): Promise<Speeds | undefined> {
    if (clip.motion === 0) return undefined;
    const within = matteCovering(look, clip.pins);
    const key = `${clip.id}:${within ?? ''}`,
      of = JSON.stringify([clip.motion, within === undefined ? null : clip.pins[within]]);
    const last = this.speeds.get(key);
    if (last?.of === of) return last.known;
    const asked = within === undefined ? '' : `?within=${encodeURIComponent(within)}`;
    const known = fetch(`/api/clips/${clip.id}/motion/speeds${asked}`).then(async (a) =>
      a.ok ? ((await a.json()) as Speeds) : [],
    );
    this.speeds.set(key, { of, known });
    return known;
  }

  /** Motion from a frame to the next; undefined if not measured. */
  async pair(clip: EngineClip, frame: number): Promise<PairAtHand | undefined> {
    const key = `${clip.hash}:${frame}`;
    const known = this.kept.get(key);
    if (known) {
      this.kept.delete(key);
      this.kept.set(key, known);
      return atHand(known);
    }
    if (this.missed.get(key) === clip.motion || clip.motion === 0) return undefined;
    const answer = await fetch(`/api/footage/${clip.hash}/motion/${frame}`);
    if (!answer.ok) {
      this.missed.set(key, clip.motion);
      return undefined;
    }
    const bytes = new Uint8Array(await answer.arrayBuffer());
    this.kept.set(key, bytes);
    this.bytes += bytes.byteLength;
    for (const [oldest, b] of this.kept) {
      if (this.bytes <= KEPT_BYTES || oldest === key) break;
      this.kept.delete(oldest);
      this.bytes -= b.byteLength;
    }
    return atHand(bytes);
  }
}
const atHand = (bytes: Uint8Array): PairAtHand => ({
  ...packedSize(bytes),
  pair: () => unpackPair(bytes),
});
