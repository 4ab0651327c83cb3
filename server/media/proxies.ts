/**
 * Makes proxies for pages: small all-intra copies of footage, one frame per source frame, and a
 * strip of stills.
 */
import { rename } from 'node:fs/promises';
import { join } from 'node:path';
import type { MatrixId } from '../../core';
import type { Footage, FootageFacts } from './footage';
import type { Place } from './place';
import { input, run } from './run';

/** Heights of the proxies, lines. */
export const PROXIES = [540, 270] as const;
/** Rate of all proxies, whatever the footage's. */
const PROXY_RATE = 25;
/** Height of a proxy. */
export type ProxyLines = (typeof PROXIES)[number];
/** Width of a still on the strip follows its shape, up to twenty times its height. */
const STRIP_WIDTH = "'max(2,min(2400,trunc(iw*120/ih/2)*2))'";
/** Widest proxy in pixels; wider footage gets fewer lines. */
const WIDEST = 4096;
/** Most stills on the strip, and their height. */
export const STRIP = { frames: 24, height: 120 } as const;

const hasFields = ({ format }: Pick<Footage, 'format'>): boolean =>
  format.fields !== undefined && format.fields !== 'none';
/** Size of a proxy in pixels, even, in the shape of the footage's stored pixels. */
export function proxySize(f: Pick<Footage, 'format'>, lines: number): [number, number] {
  const to = (v: number, of: number) => Math.max(of, Math.round(v / of) * of);
  const scale = Math.min(1, lines / f.format.height, WIDEST / f.format.width);
  // For interlaced footage each field has half the rows, and its chroma half of those; FFmpeg's
  // scaler fails at other sizes.
  return [to(f.format.width * scale, 2), to(f.format.height * scale, hasFields(f) ? 4 : 2)];
}

/**
 * Filters that scale footage to a proxy. Coverage is placed below the picture as luma; colours are
 * averaged weighted by coverage, so that transparency tints no edge.
 */
function pictures({ format }: Footage, w: number, h: number): string {
  const matrix =
    format.layout === 'yuv'
      ? `in_color_matrix=${format.matrix}:in_range=${format.full ? 'pc' : 'tv'}:`
      : '';
  const own = proxyMatrix(format);
  const pix = format.depth > 8 ? 'yuv420p10le' : 'yuv420p';
  const scaled = `scale=${w}:${h}:flags=area${hasFields({ format }) ? ':interl=1' : ''}`;
  if (!format.alpha) return `${scaled}:${matrix}out_color_matrix=${own}:out_range=tv,format=${pix}`;
  const planar = format.depth > 8 ? 'gbrap16le' : 'gbrap';
  return [
    `scale=iw:ih:${matrix}out_range=pc,format=${planar},premultiply=inplace=1,${scaled},unpremultiply=inplace=1,format=${planar},split[colour][cover]`,
    `[colour]scale=out_color_matrix=${own}:out_range=tv,format=${pix}[above]`,
    `[cover]extractplanes=a,scale=in_range=pc:out_range=tv,format=${pix}[below]`,
    `[above][below]vstack`,
  ].join(';');
}

/** Composites a proxy over black, using the coverage below its picture. */
const OVER_BLACK = [
  'split[both][twin]',
  '[both]crop=iw:ih/2:0:0[colour]',
  "[twin]crop=iw:ih/2:0:ih/2,extractplanes=y,lut=c0='clip((val-16)*255/219,0,255)'[cover]",
  '[colour][cover]alphamerge,premultiply=inplace=1,format=yuv420p,',
].join(';');

/** Proxies keep the footage's own matrix, so that a wrong tag can still be corrected. */
const proxyMatrix = (format: Footage['format']): MatrixId =>
  format.layout === 'yuv' ? format.matrix : 'bt709';
const COLORSPACES: Record<MatrixId, string> = {
  bt709: 'bt709',
  bt601: 'smpte170m',
  bt2020: 'bt2020nc',
  smpte240m: 'smpte240m',
};

/** Writes the proxies and the strip to a folder. Reports progress 0…1. */
export async function makeProxies(
  place: Place,
  footage: Footage,
  folder: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  for (const [i, lines] of PROXIES.entries()) {
    const [w, h] = proxySize(footage, lines);
    const out = join(folder, `proxy-${lines}.webm`);
    await run(
      'ffmpeg',
      [
        '-progress',
        'pipe:1',
        ...place.open,
        '-map',
        '0:v:0',
        '-an',
        '-fps_mode',
        'passthrough',
        '-vf',
        `${pictures(footage, w, h)},setpts=N/${PROXY_RATE}/TB`,
        '-enc_time_base',
        `1/${PROXY_RATE}`,
        '-c:v',
        'libvpx-vp9',
        '-g',
        '1',
        '-deadline',
        'realtime',
        '-cpu-used',
        '8',
        '-row-mt',
        '1',
        '-threads',
        '2',
        '-crf',
        lines > 300 ? '16' : '20',
        '-b:v',
        '0',
        '-colorspace',
        COLORSPACES[proxyMatrix(footage.format)],
        '-color_range',
        'tv',
        '-f',
        'webm',
        `${out}.partial`,
      ],
      (line) => {
        const frame = /^frame=(\d+)/.exec(line);
        if (frame)
          onProgress(
            Math.min(
              1,
              i * 0.6 + (Number(frame[1]) / footage.index.hashes.length) * (i ? 0.35 : 0.6),
            ),
          );
      },
      signal,
    );
    await rename(`${out}.partial`, out);
  }
  const n = footage.index.hashes.length,
    strip = join(folder, 'strip.jpg');
  const every = Math.max(1, Math.floor(n / STRIP.frames)),
    count = Math.min(STRIP.frames, Math.ceil(n / every));
  await run(
    'ffmpeg',
    [
      ...input(join(folder, 'proxy-270.webm')),
      '-vf',
      `${footage.format.alpha ? OVER_BLACK : ''}select=not(mod(n\\,${every})),scale=${STRIP_WIDTH}:${STRIP.height},tile=${count}x1`,
      '-frames:v',
      '1',
      '-fps_mode',
      'passthrough',
      '-q:v',
      '3',
      '-f',
      'image2',
      '-update',
      '1',
      `${strip}.partial.jpg`,
    ],
    undefined,
    signal,
  );
  await rename(`${strip}.partial.jpg`, strip);
  onProgress(1);
}

/** Number of stills on the strip. */
export function stripFrames({ sourceFrames: n }: Pick<FootageFacts, 'sourceFrames'>): number {
  const every = Math.max(1, Math.floor(n / STRIP.frames));
  return Math.min(STRIP.frames, Math.ceil(n / every));
}

/**
 * A still of footage at the strip's height, as JPEG, from its small proxy: the frame, or the last
 * before it that can be read. Throws `ToolFailed`.
 */
export async function stillOf(
  folder: string,
  footage: Pick<Footage, 'format'>,
  frame: number,
): Promise<Buffer> {
  const filters = `${footage.format.alpha ? OVER_BLACK : ''}scale=${STRIP_WIDTH}:${STRIP.height}`;
  const output = [
    '-vf',
    filters,
    '-frames:v',
    '1',
    '-q:v',
    '3',
    '-c:v',
    'mjpeg',
    '-f',
    'image2pipe',
    '-',
  ];
  // Of a damaged file the last frames may be missing: then it is the last that is there.
  for (let at = frame, back = 1; ; at = Math.max(0, at - back), back *= 2) {
    // Half a frame early, so that rounding cannot miss it.
    const seek = Math.max(0, (at - 0.5) / PROXY_RATE).toFixed(4);
    const opened = ['-ss', seek, ...input(join(folder, 'proxy-270.webm'))];
    const { out } = await run('ffmpeg', [...opened, ...output]);
    if (out.length > 0 || at === 0) return out;
  }
}
