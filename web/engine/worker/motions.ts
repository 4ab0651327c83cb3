/**
 * The motion of clips, fetched pair by pair as it is asked for; what was not measured yet is asked
 * for again once more is.
 */
import { type LookDocument, matteCovering, type PairAtHand, type Speeds } from '../../../core';
import { packedSize, unpackPair } from '../../../core/trace';
import type { EngineClip } from '../protocol';

const KEPT_BYTES = 96 * 2 ** 20;

export class Motions {
  private readonly kept = new Map<string, Uint8Array>();
  private bytes = 0;
  /** How much of a clip's motion was measured when a pair was looked for in vain. */
  private readonly missed = new Map<string, number>();

  private readonly speeds = new Map<
    string,
    { readonly of: string; readonly known: Promise<Speeds> }
  >();

  /**
   * How fast what moves is, or what a look's matte covers of it; undefined where nothing is
   * measured. Asked for again once more is.
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

  /** From a frame to the next; undefined where it is not measured. */
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
