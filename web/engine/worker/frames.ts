/**
 * Decoded frames for the engine: proxies are opened once, exact frames fetched, the latest kept.
 */
import { type MatrixId, planesIn, type RawFrame } from '../../../core';
import type { EngineClip } from '../protocol';
import { Proxy } from './proxy';

const KEPT_BYTES = 256 * 2 ** 20;
/** Most frames in one answer of the server. */
const MOST_AT_ONCE = 8;

/** Frames of clips, with a cache. */
export class Frames {
  private readonly proxies = new Map<string, Promise<Proxy>>();
  private readonly kept = new Map<string, RawFrame>();
  private bytes = 0;
  /** Formats of each clip's frames by source, as far as one was decoded. */
  private readonly formats = new Map<
    string,
    { readonly format: RawFrame['format']; readonly key: (frame: number) => string }
  >();

  /** A frame from the cache. */
  ready(clip: EngineClip, frame: number, from: 'exact' | 540 | 270): RawFrame | undefined {
    const key = keyOf(clip, frame, from);
    const raw = this.kept.get(key);
    if (raw) {
      this.kept.delete(key);
      this.kept.set(key, raw);
    }
    return raw;
  }

  /** A frame without samples, for planning. It must not be computed. */
  expected(clip: EngineClip, frame: number, from: 'exact' | 540 | 270): RawFrame | undefined {
    if (from === 'exact') return { format: clip.format, planes: [], key: exactKey(clip, frame) };
    const known = this.formats.get(sourceKey(clip, from));
    return known && { format: known.format, planes: [], key: known.key(sourceOf(clip, frame)) };
  }

  async get(clip: EngineClip, frame: number, from: 'exact' | 540 | 270): Promise<RawFrame> {
    const at = this.ready(clip, frame, from);
    if (at) return at;
    if (from === 'exact') {
      for (const [i, raw] of (await exactFrames(clip, frame, 1)).entries())
        this.keep(clip, frame + i, from, raw);
      return this.ready(clip, frame, from)!;
    }
    const raw = inMatrix(
      await (await this.proxy(clip, from)).frame(sourceOf(clip, frame)),
      matrixOf(clip),
    );
    this.keep(clip, frame, from, raw);
    return raw;
  }

  /** Fetches missing frames in order of time, adjacent ones together. */
  async prepare(
    clip: EngineClip,
    wanted: readonly number[],
    from: 'exact' | 540 | 270,
  ): Promise<void> {
    if (from !== 'exact' || wanted.length < 2) return;
    const missing = wanted.filter((f) => !this.ready(clip, f, from));
    for (let i = 0; i < missing.length;) {
      let count = 1;
      while (count < MOST_AT_ONCE && missing[i + count] === missing[i]! + count) count++;
      for (const [k, raw] of (await exactFrames(clip, missing[i]!, count)).entries())
        this.keep(clip, missing[i]! + k, from, raw);
      i += count;
    }
  }

  private keep(clip: EngineClip, frame: number, from: 'exact' | 540 | 270, raw: RawFrame): void {
    const key = keyOf(clip, frame, from);
    const of = raw.key.slice(0, raw.key.lastIndexOf(':') + 1);
    this.formats.set(sourceKey(clip, from), {
      format: raw.format,
      key: (source) => `${of}${source}`,
    });
    if (!this.kept.has(key)) {
      this.kept.set(key, raw);
      this.bytes += sizeOf(raw);
    }
    for (const [oldest, f] of this.kept) {
      if (this.bytes <= KEPT_BYTES) break;
      this.kept.delete(oldest);
      this.bytes -= sizeOf(f);
    }
  }

  private proxy(clip: EngineClip, lines: 540 | 270): Promise<Proxy> {
    const key = `${clip.hash}:${lines}`;
    let opened = this.proxies.get(key);
    if (!opened) {
      opened = Proxy.open(
        `/api/footage/${clip.hash}/proxy-${lines}.webm`,
        `proxy:${key}`,
        clip.format.alpha,
      );
      opened.catch(() => this.proxies.delete(key));
      this.proxies.set(key, opened);
    }
    return opened;
  }
}

const sourceOf = (clip: EngineClip, frame: number): number => clip.slots?.[frame] ?? frame;
/** The matrix of a clip's proxies: its own if they keep it. */
const matrixOf = (clip: EngineClip): MatrixId =>
  clip.proxyMatrix && clip.format.layout === 'yuv' ? clip.format.matrix : 'bt709';
const inMatrix = (raw: RawFrame, matrix: MatrixId): RawFrame => ({
  ...raw,
  format: { ...raw.format, matrix },
});
const sourceKey = (clip: EngineClip, from: 'exact' | 540 | 270): string => {
  const { matrix, siting, fields } = clip.format;
  return [clip.hash, from, matrix, siting, fields].join(':');
};
const keyOf = (clip: EngineClip, frame: number, from: 'exact' | 540 | 270): string =>
  `${sourceKey(clip, from)}:${sourceOf(clip, frame)}`;
const sizeOf = (f: RawFrame): number => f.planes.reduce((n, p) => n + p.byteLength, 0);

async function exactFrames(clip: EngineClip, first: number, count: number): Promise<RawFrame[]> {
  const answer = await fetch(
    `/api/footage/${clip.hash}/frames/${first}${count > 1 ? `?count=${count}` : ''}`,
  );
  if (!answer.ok)
    throw new Error(
      ((await answer.json().catch(() => ({}))) as { detail?: string }).detail ??
        'the exact frame could not be fetched',
    );
  const bytes = await answer.arrayBuffer();
  const size = bytes.byteLength / count;
  return Array.from({ length: count }, (_, i) => ({
    format: clip.format,
    planes: planesIn(bytes, i * size, clip.format),
    key: exactKey(clip, first + i),
  }));
}
const exactKey = (clip: EngineClip, frame: number): string =>
  `${clip.hash}:${sourceOf(clip, frame)}`;
