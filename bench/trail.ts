/**
 * `npm run bench -- trail`: edges, a blur, a trail of eight copies, a wide glow, screened over the
 * clip, at 1920×1080 on one thread, frame after frame, beside FFmpeg's filters; then a lighten
 * trail of sixty copies beside one of eight. The lead-in (as many frames as there are copies) is
 * told apart.
 */
import { spawnSync } from 'node:child_process';
import { cpus } from 'node:os';
import { type ClipFrame, edit, emptyLook, type LookDocument, plan, stepOf } from '../core';
import { inDomain, leaf } from '../core/image';
import { startEngine } from '../server/render/threads';

const W = 1920,
  H = 1080,
  STEADY = 120,
  FIRST = 60;
const SETS = 6;
/** A few moving pictures, gone through again and again under keys of their own. */
const sources = Array.from({ length: SETS }, (_, k) =>
  [0, 1, 2].map((p) => {
    const plane = new Float32Array(W * H);
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++)
        plane[y * W + x] =
          ((((x + k * 40) >> 6) ^ (y >> 6)) & 1) * 0.5 + 0.1 * p + ((x * 7 + y * 13) % 97) / 970;
    return plane;
  }),
);
const at = (frame: number): ClipFrame => ({
  bedrock: leaf(sources[frame % SETS]!, W, H, 'light', `trail ${frame}`),
  content: 'bench',
  frame,
  time: { frames: 100_000, rate: [25, 1], cues: {} },
  at,
});
const use = (id: string, values: Record<string, number | string>) => ({
  ...edit.newStep(stepOf(id)!, []),
  parameters: Object.fromEntries(Object.entries(values).map(([k, value]) => [k, { value }])),
});
const looks = (count: number): LookDocument =>
  edit.addLayer(emptyLook('Trail', 1), {
    ...edit.newLayer(
      'Light',
      'clip',
      [],
      [
        use('contour', { thickness: 4 }),
        use('blur', { radius: 8 }),
        { ...use('trail', { count, fade: 85 }), key: 'trail' },
        use('glow', { radius: 80, amount: 100 }),
      ],
    ),
    blend: 'screen',
  });
const plain = (count: number): LookDocument =>
  edit.addLayer(
    emptyLook('Trail', 1),
    edit.newLayer('Light', 'clip', [], [use('trail', { count, fade: 95 })]),
  );

interface Took {
  readonly lead: number;
  readonly steady: number;
}
/**
 * Milliseconds a frame: over the lead-in (until every part of the past was made by a frame before),
 * and after it.
 */
function ours(look: LookDocument, count: number, frames: number): Took {
  const { engine } = startEngine(1, 2 ** 32 - 2 ** 16);
  const over = (first: number, n: number): number => {
    const began = performance.now();
    for (let frame = first; frame < first + n; frame++)
      engine.compute(inDomain(plan(look, at(frame)).result, 'encoded'), { frame });
    return (performance.now() - began) / n;
  };
  const lead = over(FIRST, count),
    steady = over(FIRST + count, frames);
  engine.close();
  return { lead, steady };
}

function theirs(filters: string, frames: number, format: string): number {
  const made = spawnSync(
    'ffmpeg',
    [
      '-v',
      'info',
      '-benchmark',
      '-f',
      'lavfi',
      '-i',
      `testsrc2=s=${W}x${H}:r=25:d=${frames / 25},format=${format}`,
      '-threads',
      '1',
      '-filter_complex_threads',
      '1',
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
  const figures = /bench: utime=([\d.]+)s stime=([\d.]+)s/.exec(made.stderr);
  if (!figures) throw new Error(made.stderr.slice(-600));
  return ((Number(figures[1]) + Number(figures[2])) * 1000) / frames;
}
const weights = Array.from({ length: 8 }, (_, k) => 0.85 ** (7 - k)).join(' ');
const CHAIN = `split[a][b];[a]sobel,gblur=sigma=4,tmix=frames=8:weights='${weights}':scale=0.5,gblur=sigma=40[t];[b][t]blend=all_mode=screen`;

const median = (v: readonly number[]): number => [...v].sort((a, b) => a - b)[v.length >> 1]!;
/** FFmpeg's filters take 8 or 16 bits here; ours are floats. */
const FORMATS = { gbrp: '8 bits', gbrp16le: '16 bits' };

console.log(`${cpus()[0]!.model}; ${W}×${H}, one thread, ${STEADY} steady frames; ms a frame`);
const ratios: Record<string, number[]> = { gbrp: [], gbrp16le: [] };
for (let turn = 0; turn < 3; turn++) {
  const own = ours(looks(8), 8, STEADY / 3);
  const others = Object.entries(FORMATS).map(([format, words]) => {
    const other = theirs(CHAIN, STEADY / 3, format) - theirs('null', STEADY / 3, format);
    ratios[format]!.push(other / own.steady);
    return `ffmpeg, ${words}, ${other.toFixed(0)}: ${(other / own.steady).toFixed(2)}×`;
  });
  const lead = `ours ${own.steady.toFixed(0)} (lead-in ${own.lead.toFixed(0)})`;
  console.log(`  trail of 8 with edges, blur, glow, screen: ${lead}; ${others.join('; ')}`);
}
const medians = Object.entries(ratios).map(
  ([format, v]) => `${median(v).toFixed(2)}× (${FORMATS[format as keyof typeof FORMATS]})`,
);
console.log(`  median ${medians.join(', ')}, aim 1.5×`);

/** Sixty copies beside eight: in the chain above, and the trail alone. */
for (const [what, make] of [
  ['in that chain', looks],
  ['a lighten trail alone', plain],
] as const) {
  const [before, sixty, after] = [8, 60, 8].map((count) => ours(make(count), count, 30)) as [
    Took,
    Took,
    Took,
  ];
  const eight = (before.steady + after.steady) / 2;
  console.log(
    `  ${what}: 8 copies ${before.steady.toFixed(1)} and ${after.steady.toFixed(1)}, 60 copies ${sixty.steady.toFixed(1)} ` +
      `(lead-in ${sixty.lead.toFixed(0)}): ${(sixty.steady / eight).toFixed(2)}, aim 1.3 at most`,
  );
}
