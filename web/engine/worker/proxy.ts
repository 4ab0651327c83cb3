/**
 * Frames of a proxy: demuxed once, decoded one at a time (all are key frames), planes copied.
 * Coverage is below the picture, in luma.
 */
import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input } from 'mediabunny';
import { type FrameFormat, planeSizes, type RawFrame } from '../../../core';

/** A frame of 540 lines takes a few milliseconds; the decoder counts as stuck after this. */
const TIMEOUT_MS = 4000;
class Silent extends Error {}

/** An open proxy. */
export class Proxy {
  private readonly chunks: EncodedVideoChunk[] = [];
  private decoder!: VideoDecoder;
  private config!: VideoDecoderConfig;
  private waiting: { resolve: (f: VideoFrame) => void; reject: (e: Error) => void } | undefined;
  private turn: Promise<unknown> = Promise.resolve();

  private constructor(
    private readonly url: string,
    private readonly key: string,
    private readonly coverage: boolean,
  ) {}

  static async open(url: string, key: string, coverage: boolean): Promise<Proxy> {
    const proxy = new Proxy(url, key, coverage);
    await proxy.load();
    return proxy;
  }

  private async load(): Promise<void> {
    const answer = await fetch(this.url);
    if (!answer.ok) throw new Error(`the proxy could not be loaded (${answer.status})`);
    const input = new Input({ source: new BlobSource(await answer.blob()), formats: ALL_FORMATS });
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error('the proxy has no pictures');
    const config = await track.getDecoderConfig();
    if (!config) throw new Error('this browser cannot decode the proxy');
    for await (const packet of new EncodedPacketSink(track).packets())
      this.chunks.push(packet.toEncodedVideoChunk());
    this.config = config;
    this.start(config);
  }

  private restart(): void {
    this.waiting = undefined;
    if (this.decoder.state !== 'closed') this.decoder.close();
    this.start(this.config);
  }

  private start(config: VideoDecoderConfig): void {
    this.decoder = new VideoDecoder({
      output: (f) => {
        if (this.waiting) this.waiting.resolve(f);
        else f.close();
        this.waiting = undefined;
      },
      error: (e) => {
        this.waiting?.reject(new Error(e.message));
        this.waiting = undefined;
        if (this.decoder.state === 'closed') this.start(config);
      },
    });
    this.decoder.configure({ ...config, optimizeForLatency: true });
  }

  /** The planes of a source frame. Decodes run one after another. */
  frame(index: number): Promise<RawFrame> {
    // A decoder that does not answer is restarted once.
    const result = this.turn
      .then(() => this.decode(index))
      .catch((e: unknown) => {
        if (!(e instanceof Silent)) throw e;
        this.restart();
        return this.decode(index);
      });
    this.turn = result.catch(() => {});
    return result;
  }

  private async decode(index: number): Promise<RawFrame> {
    const chunk = this.chunks[Math.min(index, this.chunks.length - 1)];
    if (!chunk) throw new Error('the proxy holds no frames');
    const video = await new Promise<VideoFrame>((resolve, reject) => {
      this.waiting = { resolve, reject };
      setTimeout(
        () => reject(new Silent('the browser did not decode the proxy in time')),
        TIMEOUT_MS,
      );
      this.decoder.decode(chunk);
      // Without reordering the frame comes by itself; the flush ensures it.
      this.decoder.flush().catch(() => {});
    });
    try {
      const raw = await planesOf(video, `${this.key}:${index}`);
      return this.coverage ? uncovered(raw) : raw;
    } finally {
      video.close();
    }
  }
}

/** Proxies use the range 16…235 whatever the browser reports; their matrix comes from the clip. */
async function planesOf(video: VideoFrame, key: string): Promise<RawFrame> {
  const deep = (video.format as string) === 'I420P10';
  if (!deep && video.format !== 'I420')
    throw new Error(
      `the browser decodes the proxy as ${video.format ?? 'nothing'}, which holds no planes`,
    );
  const { width, height } = video.visibleRect!;
  const format: FrameFormat = {
    width,
    height,
    layout: 'yuv',
    chroma: [2, 2],
    depth: deep ? 10 : 8,
    alpha: false,
    full: false,
    matrix: 'bt709',
  };
  const size = deep ? 2 : 1;
  let offset = 0;
  const layout = planeSizes(format).map(([w, h]) => {
    const at = { offset, stride: w * size };
    offset += w * h * size;
    return at;
  });
  const buffer = new ArrayBuffer(offset);
  await video.copyTo(buffer, { layout });
  const planes = planeSizes(format).map(([w, h], i) =>
    deep
      ? new Uint16Array(buffer, layout[i]!.offset, w * h)
      : new Uint8Array(buffer, layout[i]!.offset, w * h),
  );
  return { format, planes, key };
}

/** The upper half as the picture, the luma of the lower half as its coverage. */
export function uncovered({ format, planes, key }: RawFrame): RawFrame {
  const { width, depth } = format,
    height = format.height / 2;
  const upper = { ...format, height };
  const [y, ...colour] = planeSizes(upper).map(([w, h], i) => planes[i]!.subarray(0, w * h)) as [
    Uint8Array | Uint16Array,
    ...Uint8Array[],
  ];
  const unit = 2 ** (depth - 8),
    top = 2 ** depth - 1;
  const cover = planes[0]!.slice(width * height);
  cover.forEach(
    (v, i) =>
      (cover[i] = Math.max(0, Math.min(top, Math.round(((v - 16 * unit) * top) / (219 * unit))))),
  );
  return { format: { ...upper, alpha: true }, planes: [y, ...colour, cover], key };
}
