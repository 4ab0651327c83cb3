/**
 * Compares kernels with FFmpeg's filters for the same work: one thread each, 1920×1080, a frame of
 * the demo. Runs alternate; the shortest time counts. FFmpeg's time is that of its chain minus that
 * of the same pipe without filters.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { blur, leaf } from '../core/image';
import { cubeValue, stepOf, withDefaults, type Values } from '../core';
import type { Engine } from '../core/engine';
import { writeCube } from '../core/formats';
import { lowerStep, lowerSteps } from '../core/steps';
import { blend, place, PLACEMENT } from '../core/compositing';
import { pointwise, checkpoint, imageOp, type ImageNode } from '../core/graph';
import { startEngine } from '../server/render/threads';

const [W, H] = [1920, 1080];
const TURNS = 7,
  FRAMES = 12;
const folder = mkdtempSync(join(tmpdir(), 'wabisabi-bench-'));
const at = { frame: 0, seconds: 0, rate: [25, 1] as const, seed: 1, width: W, height: H };

const decoded = spawnSync(
  'ffmpeg',
  [
    '-v',
    'error',
    '-ss',
    '1',
    '-i',
    'demo/footage/skyline.mp4',
    '-frames:v',
    '1',
    '-vf',
    'scale=1920:1080',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gbrpf32le',
    '-',
  ],
  { maxBuffer: 1 << 28 },
).stdout;
const [green, blue, red] = [0, 1, 2].map(
  (i) =>
    new Float32Array(new Uint8Array(decoded.subarray(i * W * H * 4, (i + 1) * W * H * 4)).buffer),
) as [Float32Array, Float32Array, Float32Array];
const source = [red, green, blue];

const n = 33;
const colours = Float32Array.from({ length: n * n * n * 3 }, (_, i) => {
  const entry = Math.floor(i / 3),
    x = [entry % n, Math.floor(entry / n) % n, Math.floor(entry / n / n)][i % 3]! / (n - 1);
  return x * x * (3 - 2 * x);
});
const cubeFile = join(folder, 'bench.cube');
const lut = cubeValue('bench', '3d', n, colours);
writeFileSync(cubeFile, writeCube(lut, colours));

const step = (id: string, input: ImageNode, values: Partial<Values>): ImageNode =>
  lowerStep(stepOf(id)!, input, withDefaults(stepOf(id)!, values), 1, at);

const chained = (
  steps: readonly (readonly [string, Partial<Values>])[],
  from: ImageNode,
): ImageNode =>
  lowerSteps(
    steps.map(([id, values]) => ({
      step: stepOf(id)!,
      values: withDefaults(stepOf(id)!, values),
      mix: 1,
      at,
    })),
    from,
  );

interface Chain {
  readonly name: string;
  readonly aim: number;
  readonly ours: (from: ImageNode) => ImageNode;
  readonly filters: string;
  readonly format: string;
}
const CHAINS: readonly Chain[] = [
  {
    name: 'grade',
    aim: 2,
    ours: (from) => {
      const steps: [string, Partial<Values>][] = [
        ['contrast', { amount: 14 }],
        ['saturation', { amount: 120 }],
        ['levels', { gamma: 1.1 }],
        [
          'tone-curves',
          {
            all: [
              [0, 0.02],
              [0.5, 0.55],
              [1, 0.98],
            ],
          },
        ],
        ['three-way', { 'gain-red': 4, 'gamma-red': 5, 'lift-blue': 3 }],
        ['lut', { lut }],
      ];
      return chained(steps, from);
    },
    filters: `lutrgb=r='clip((val/65535-0.435)*1.1+0.435\\,0\\,1)*65535':g='clip((val/65535-0.435)*1.1+0.435\\,0\\,1)*65535':b='clip((val/65535-0.435)*1.1+0.435\\,0\\,1)*65535',colorchannelmixer=rr=1.157:rg=-0.143:rb=-0.014:gr=-0.043:gg=1.057:gb=-0.014:br=-0.043:bg=-0.143:bb=1.186,lutrgb=r=gammaval(0.909):g=gammaval(0.909):b=gammaval(0.909),curves=all='0/0.02 0.5/0.55 1/0.98',colorbalance=rm=0.05:rh=0.04:bs=0.03,lut3d=file=${cubeFile}:interp=tetrahedral`,
    format: 'gbrp16le',
  },
  {
    name: 'blur',
    aim: 0.8,
    ours: (from) => blur(from, 10),
    filters: 'gblur=sigma=10',
    format: 'gbrpf32le',
  },
  {
    name: 'bloom',
    aim: 0.8,
    ours: (from) => {
      const key = step('levels', from, { black: 0.5, white: 1 });
      return blend('screen', from, blur(key, 10), 0.6);
    },
    filters:
      'split[a][b];[b]colorlevels=rimin=0.5:gimin=0.5:bimin=0.5,gblur=sigma=10[c];[a][c]blend=all_mode=screen:all_opacity=0.6',
    format: 'gbrpf32le',
  },
  {
    name: 'contour',
    aim: 1.5,
    ours: (from) => blend('screen', from, step('contour', from, { thickness: 2, softness: 4 }), 1),
    filters:
      'split[a][b];[b]format=gray16le,sobel,gblur=sigma=2,format=gbrp16le[c];[a][c]blend=all_mode=screen',
    format: 'gbrp16le',
  },
  {
    name: 'glow 250 lines',
    aim: 0.8,
    ours: (from) => step('glow', from, { amount: 80, threshold: 0.5, softness: 0.2, radius: 250 }),
    filters:
      'split[a][b];[b]colorlevels=rimin=0.5:gimin=0.5:bimin=0.5,gblur=sigma=125[c];[a][c]blend=all_mode=addition:all_opacity=0.8',
    format: 'gbrpf32le',
  },
  {
    name: 'double exposure',
    aim: 1,
    ours: (from) => {
      const at2 = {
        position: [0.55, 0.45] as const,
        'scale-x': 130,
        'scale-y': 130,
        edge: 'mirror',
      };
      const second = place(from, withDefaults({ parameters: PLACEMENT }, at2));
      return blend(
        'screen',
        step('levels', step('monochrome', from, {}), { white: 0.6 }),
        second,
        1,
      );
    },
    filters:
      'split[a][b];[a]colorchannelmixer=rr=0.35:rg=0.55:rb=0.1:gr=0.35:gg=0.55:gb=0.1:br=0.35:bg=0.55:bb=0.1,colorlevels=rimax=0.6:gimax=0.6:bimax=0.6[c];[b]scale=iw*1.3:ih*1.3:flags=bilinear,crop=1920:1080[d];[c][d]blend=all_mode=screen',
    format: 'gbrp16le',
  },
  {
    name: 'film',
    aim: 1.2,
    ours: (from) => {
      const steps: [string, Partial<Values>][] = [
        ['film-response', {}],
        ['halation', { amount: 10 }],
        ['grain', { amount: 100 }],
        ['gate-weave', { across: 1.5, along: 2 }],
        ['vignette', { stops: -0.8 }],
      ];
      return chained(steps, from);
    },
    // A much simpler model: a curve, a balance, a blur screened over, a vignette, noise; in 8 bits,
    // which noise requires.
    filters:
      "curves=red='0/0 0.5/0.52 1/0.98':green='0/0.01 0.5/0.5 1/0.97':blue='0/0.03 0.5/0.48 1/0.94',colorbalance=rs=0.05:bh=-0.05,split[a][b];[b]colorlevels=rimin=0.6:gimin=0.7:bimin=0.9,gblur=sigma=18[c];[a][c]blend=all_mode=screen:all_opacity=0.4,vignette=PI/5,noise=alls=8:allf=t",
    format: 'gbrp',
  },
  ...[1, 3].map((copies): Chain => ({
    name: copies === 1 ? 'tape' : `tape, ${copies} copies`,
    aim: 0,
    ours: (from) =>
      chained(
        [
          ['tape-signal', {}],
          ['tape-noise', { luma: 100, colour: 100 }],
          ['dropouts', { amount: 10 }],
          ['tracking-band', { strength: 60 }],
          ['line-jitter', { jitter: 60, wave: 200 }],
          ['head-switch', { rows: 10 }],
          ['dubbing', { copies }],
        ],
        from,
      ),
    filters: 'null',
    format: 'gbrp',
  })),
  ...(['film-response', 'halation', 'grain'] as const).map((id): Chain => ({
    name: `${id} alone`,
    aim: 0,
    ours: (from) => chained([[id, id === 'film-response' ? {} : { amount: 20 }]], from),
    filters: 'null',
    format: 'gbrp',
  })),
];

/** CPU time and wall time per frame in ms, for a chain on `threads` threads. */
function theirs(filters: string, format: string, threads: number): { cpu: number; wall: number } {
  const shape = ['-f', 'rawvideo', '-pix_fmt', format, '-s', `${W}x${H}`, '-r', '25'];
  const t = String(threads);
  const made = spawnSync(
    'ffmpeg',
    [
      '-nostdin',
      '-benchmark',
      '-stream_loop',
      String(FRAMES - 1),
      ...shape,
      '-i',
      join(folder, `${format}.raw`),
      '-threads',
      t,
      '-filter_complex_threads',
      t,
      '-filter_complex',
      `[0:v]${filters}[o]`,
      '-map',
      '[o]',
      '-f',
      'null',
      '-',
    ],
    { encoding: 'utf8' },
  );
  const figures = /bench: utime=([\d.]+)s stime=([\d.]+)s rtime=([\d.]+)s/.exec(made.stderr);
  if (!figures) throw new Error(made.stderr.slice(-400));
  return {
    cpu: ((Number(figures[1]) + Number(figures[2])) * 1000) / FRAMES,
    wall: (Number(figures[3]) * 1000) / FRAMES,
  };
}

let serial = 0;
/** A new picture each time, so that nothing is cached; it is ready before the clock starts. */
function ours(engine: Engine, input: ImageNode, chain: Chain): number {
  const from = checkpoint(
    imageOp({
      shape: 'bench-copy',
      inputs: [pointwise(input)],
      planes: 3,
      domain: 'encoded',
      params: [serial++ * 1e-9],
      build: (b) => b.pixel(0).map((v) => v.add(b.param(0))),
    }),
  );
  engine.compute(from, { keepCheckpoints: true });
  const began = performance.now();
  engine.compute(chain.ours(from), { keepCheckpoints: true });
  return performance.now() - began;
}

/** Chains to measure (`npm run bench -- filters glow double`). Default: all. */
const wanted = process.argv.slice(2);

async function main(): Promise<void> {
  console.log(
    `${cpus()[0]!.model}, ${cpus().length} cores; ${W}×${H}, three planes; least of ${TURNS} turns, ms a frame`,
  );
  for (const format of new Set(CHAINS.map((c) => c.format))) {
    spawnSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-y',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gbrpf32le',
        '-s',
        `${W}x${H}`,
        '-i',
        '-',
        '-f',
        'rawvideo',
        '-pix_fmt',
        format,
        join(folder, `${format}.raw`),
      ],
      {
        input: decoded,
      },
    );
  }
  for (const threads of [1, cpus().length]) {
    const { engine, close } = startEngine(threads);
    console.log(
      `\n${threads} thread${threads > 1 ? 's' : ''}`.padEnd(19) +
        'ours   ffmpeg (cpu, wall)   ratio   aim',
    );
    for (const chain of CHAINS.filter(
      (c) => wanted.length === 0 || wanted.some((w) => c.name.startsWith(w)),
    )) {
      const times = {
        ours: Infinity,
        cpu: Infinity,
        wall: Infinity,
        idleCpu: Infinity,
        idleWall: Infinity,
      };
      const input = leaf(source, W, H, 'encoded', `bench-${threads}`);
      for (let turn = 0; turn < TURNS; turn++) {
        for (let k = 0; k < 4; k++) times.ours = Math.min(times.ours, ours(engine, input, chain));
        const chainTime = theirs(chain.filters, chain.format, threads),
          idle = theirs('null', chain.format, threads);
        times.cpu = Math.min(times.cpu, chainTime.cpu);
        times.wall = Math.min(times.wall, chainTime.wall);
        times.idleCpu = Math.min(times.idleCpu, idle.cpu);
        times.idleWall = Math.min(times.idleWall, idle.wall);
      }
      const cpu = times.cpu - times.idleCpu,
        wall = times.wall - times.idleWall;
      console.log(
        `  ${chain.name.padEnd(15)} ${times.ours.toFixed(1).padStart(6)}   ${cpu.toFixed(1).padStart(6)} ${wall.toFixed(1).padStart(6)}        ${(wall / times.ours).toFixed(2)}×   ${threads === 1 ? `${chain.aim}×` : ''}`,
      );
    }
    await close();
  }
  rmSync(folder, { recursive: true, force: true });
}
await main();
