/**
 * Assets of clips, fetched part by part on demand. Missing parts are requested again once more of
 * them are made.
 */
import {
  FRAME_ASSET_IDS,
  FRAME_ASSETS,
  type FrameAssetId,
  type LookDocument,
  matteCovering,
  type Parts,
  type Track,
  WHOLE_ASSETS,
  type WholeAssetId,
  type WholeAssets,
} from '../../../core';
import type { EngineClip } from '../protocol';

const KEPT_BYTES = 96 * 2 ** 20;

/** Assets of clips, with a cache. */
export class Assets {
  private readonly kept = new Map<string, Uint8Array>();
  private bytes = 0;
  /** Share of an asset that was made when a part was missing. */
  private readonly missed = new Map<string, number>();
  private readonly followed = new Map<
    string,
    { readonly of: string; readonly track: Promise<Track | undefined> }
  >();
  private readonly wholes = new Map<
    string,
    { readonly of: string; readonly value: Promise<WholeAssets[WholeAssetId]> }
  >();

  /**
   * What was found in all of a clip's footage, or in what a look's matte covers; undefined if
   * nothing is made. Requested again once more is.
   */
  async whole<K extends WholeAssetId>(
    clip: EngineClip,
    asset: K,
    look: LookDocument,
  ): Promise<WholeAssets[K]> {
    const made = clip.made[WHOLE_ASSETS[asset].from as FrameAssetId];
    if (made === 0) return undefined;
    const within = matteCovering(look, clip.pins);
    const key = `${asset}:${clip.id}:${within ?? ''}`,
      of = JSON.stringify([made, within === undefined ? null : clip.pins[within]]);
    const last = this.wholes.get(key);
    if (last?.of === of) return last.value as Promise<WholeAssets[K]>;
    const asked = within === undefined ? '' : `?within=${encodeURIComponent(within)}`;
    const value = fetch(`/api/clips/${clip.id}/assets/${asset}${asked}`).then(async (a) =>
      a.ok ? ((await a.json()) as WholeAssets[K]) : undefined,
    );
    this.wholes.set(key, { of, value });
    return value;
  }

  /** The tracks of a clip's traces, of those that are made. */
  async tracks(clip: EngineClip, traces: readonly string[]): Promise<WholeAssets['tracks']> {
    const all = await Promise.all(
      traces.map(async (trace) => {
        const of = clip.tracks[trace];
        const last = this.followed.get(trace);
        // Until another track is made, the one before stands in.
        if (of === undefined || last?.of === of) return [trace, await last?.track] as const;
        const track = fetch(`/api/traces/${trace}/track?of=${of}`).then(async (a) =>
          a.ok ? ((await a.json()) as Track) : undefined,
        );
        this.followed.set(trace, { of, track });
        return [trace, await track] as const;
      }),
    );
    return Object.fromEntries(all.flatMap(([trace, track]) => (track ? [[trace, track]] : [])));
  }

  /** Fetches parts together, so that they are at hand one by one afterwards. */
  async fetchAll(
    clip: EngineClip,
    parts: Readonly<Record<FrameAssetId, readonly number[]>>,
  ): Promise<void> {
    await Promise.all(
      FRAME_ASSET_IDS.flatMap((asset) => parts[asset].map((at) => this.part(clip, asset, at))),
    );
  }

  /** A part of a clip's footage; undefined if it is not made. */
  async part<K extends FrameAssetId>(
    clip: EngineClip,
    asset: K,
    frame: number,
  ): Promise<Parts[K] | undefined> {
    const key = `${asset}:${clip.hash}:${frame}`,
      made: number = clip.made[asset];
    const known = this.kept.get(key);
    if (known) {
      this.kept.delete(key);
      this.kept.set(key, known);
      return FRAME_ASSETS[asset].unpack(known);
    }
    if (this.missed.get(key) === made || made === 0) return undefined;
    const answer = await fetch(`/api/footage/${clip.hash}/assets/${asset}/${frame}`);
    if (!answer.ok) {
      this.missed.set(key, made);
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
    return FRAME_ASSETS[asset].unpack(bytes);
  }
}
