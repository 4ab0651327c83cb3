/**
 * `npm run bench -- slow-motion`: removes every other frame of a clip and interpolates it from
 * motion, vectors included, on one thread, beside FFmpeg's motion interpolation of the same frames.
 * Reports ms of CPU time per new frame, and luma PSNR against the removed frames. Speed at
 * 1920×1080 (the demo's footage enlarged), quality at its own size.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Retime } from '../core/time';
import { FootageReader } from '../server/media/footage-reader';
import { placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { renderFrame, type RenderSpec, startEngine } from '../server/render';

const CLIPS = [
  ['coast-van', 30],
  ['gulls', 24],
  ['deck-dancer', 40],
  ['floor-tom', 20],
] as const;
/** Pairs of kept frames, each with one frame between. */
const PAIRS = 8,
  TURNS = 3;
const INTERPOLATED = 'mi_mode=mci:mc_mode=aobmc:me_mode=bidir:vsbmc=1:scd=none';
const folder = mkdtempSync(join(tmpdir(), 'wabisabi-slow-'));
const HALF: Retime = {
  places: [{ frame: 0, speed: 50, to: 'smooth' }],
  backwards: false,
  between: 'motion',
};

function ffmpeg(...words: readonly string[]): string {
  const run = spawnSync('ffmpeg', ['-v', 'info', '-nostdin', '-y', ...words], {
    encoding: 'utf8',
    maxBuffer: 2 ** 26,
  });
  if (run.status !== 0) throw new Error(run.stderr.slice(-800));
  return run.stderr;
}
/**
 * Frames from `first` on of a demo clip, lossless: all of them, and every other one at half the
 * rate.
 */
function cut(
  clip: string,
  first: number,
  size: string,
): { readonly all: string; readonly kept: string } {
  const [all, kept] = ['all', 'kept'].map((n) => join(folder, `${clip}-${size}-${n}.mkv`)) as [
    string,
    string,
  ];
  // More kept frames than are compared, because FFmpeg's filter drops its last ones.
  const last = first + 2 * (PAIRS + 4);
  const chain = `trim=start_frame=${first}:end_frame=${last + 1},setpts=PTS-STARTPTS,scale=${size}:flags=lanczos,format=yuv420p`;
  const write = [
    '-c:v',
    'ffv1',
    '-pix_fmt',
    'yuv420p',
    ...['-colorspace', '-color_primaries', '-color_trc'].flatMap((tag) => [tag, 'bt709']),
  ];
  ffmpeg('-i', `demo/footage/${clip}.mp4`, '-vf', chain, '-r', '25', ...write, all);
  ffmpeg('-i', all, '-vf', "select='not(mod(n,2))',setpts=N/12.5/TB", '-r', '12.5', ...write, kept);
  return { all, kept };
}
/** The luma plane as coded; as grey it would be stretched to the full range. */
function lumas(file: string, width: number, height: number, filter = 'null'): Buffer[] {
  const raw = join(folder, 'raw.gray');
  ffmpeg('-i', file, '-vf', `${filter},extractplanes=y`, '-f', 'rawvideo', '-pix_fmt', 'gray', raw);
  const bytes = readFileSync(raw);
  return Array.from({ length: Math.floor(bytes.length / (width * height)) }, (_, i) =>
    bytes.subarray(i * width * height, (i + 1) * width * height),
  );
}
function squaresApart(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
  return sum / a.length;
}
const psnr = (made: readonly Uint8Array[], truth: readonly Uint8Array[]): number =>
  10 *
  Math.log10(
    255 ** 2 / (made.reduce((s, m, i) => s + squaresApart(m, truth[i]!), 0) / made.length),
  );

/** Our interpolated frames: luma, and CPU time per new frame. */
async function ours(
  kept: string,
  width: number,
  height: number,
): Promise<{ readonly made: Buffer[]; readonly ms: number }> {
  const { engine, close } = startEngine(1);
  const place = await placeOf(kept, {}),
    facts = await probe(kept, { place });
  const spec: RenderSpec = {
    encoding: 'bt709',
    outEncoding: 'bt709',
    fit: 'fit',
    pixelAspect: 1,
    balance: null,
    content: facts.hash,
    rate: facts.rate,
    frames: facts.frames,
    retime: HALF,
    width,
    height,
    samples: 'yuv420p',
  };
  const reader = new FootageReader(null, place, facts, spec, {});
  const made: Buffer[] = [];
  let before = process.cpuUsage();
  for (let frame = 0; frame < 2 * PAIRS; frame++) {
    // Compilation for the first pair does not count.
    if (frame === 2) before = process.cpuUsage();
    const samples = renderFrame(engine, await reader.at(frame), frame, spec);
    if (frame % 2) made.push(Buffer.from(samples.subarray(0, width * height)));
  }
  const { user, system } = process.cpuUsage(before);
  await reader.close();
  await close();
  return { made, ms: (user + system) / 1000 / (PAIRS - 1) };
}
function theirs(kept: string): number {
  const said = ffmpeg(
    '-benchmark',
    '-threads',
    '1',
    '-filter_threads',
    '1',
    '-i',
    kept,
    '-vf',
    `minterpolate=fps=25:${INTERPOLATED}`,
    '-f',
    'null',
    '-',
  );
  const [, user, system] = /bench: utime=([\d.]+)s stime=([\d.]+)s/.exec(said)!;
  // It makes as many new frames as it gets, minus one.
  return ((Number(user) + Number(system)) * 1000) / (PAIRS + 4);
}

try {
  console.log(
    `${cpus()[0]!.model}; one thread; ms of processor time a new frame at 1920×1080, fields included`,
  );
  const { kept: large } = cut('coast-van', 30, '1920x1080');
  const ratios: number[] = [];
  for (let turn = 0; turn < TURNS; turn++) {
    const [own, other] = [(await ours(large, 1920, 1080)).ms, theirs(large)];
    ratios.push(other / own);
    console.log(
      `  ours ${own.toFixed(0)}, ffmpeg ${other.toFixed(0)}: ${(other / own).toFixed(2)}×`,
    );
  }
  console.log(
    `  median ${[...ratios].sort((a, b) => a - b)[TURNS >> 1]!.toFixed(2)}×, aim over 1×`,
  );
  console.log(`luma PSNR (dB) of ${PAIRS} frames made again, every other one kept, 960×540`);
  for (const [clip, first] of CLIPS) {
    const { all, kept } = cut(clip, first, '960x540');
    const truth = lumas(all, 960, 540);
    const missing = Array.from({ length: PAIRS }, (_, i) => truth[2 * i + 1]!);
    const interpolated = lumas(kept, 960, 540, `minterpolate=fps=25:${INTERPOLATED}`);
    // The start of its output is found by the frames that it was given.
    const shift =
      [0, 1, 2, 3, 4].find((s) => squaresApart(interpolated[4]!, truth[4 + s]!) < 0.01) ?? 0;
    const [own, other] = [
      (await ours(kept, 960, 540)).made,
      Array.from({ length: PAIRS }, (_, i) => interpolated[2 * i + 1 - shift]),
    ];
    const both = own.flatMap((m, i) => (other[i] ? [[m, other[i], missing[i]!] as const] : []));
    const mixed = missing.map((_, i) =>
      Buffer.from(truth[2 * i]!.map((v, o) => (v + truth[2 * i + 2]![o]!) / 2)),
    );
    console.log(
      `  ${clip.padEnd(12)} ours ${psnr(
        both.map((b) => b[0]),
        both.map((b) => b[2]),
      ).toFixed(2)}, ffmpeg ${psnr(
        both.map((b) => b[1]),
        both.map((b) => b[2]),
      ).toFixed(2)}, a mix ${psnr(mixed, missing).toFixed(2)} (${both.length} frames)`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
