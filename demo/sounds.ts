/**
 * Writes the demo's sounds as FLAC, and what is true of them: `npx tsx demo/sounds.ts`. Loudness is
 * measured by FFmpeg (ebur128), so that it is not our own measure that ours is held to.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beats, LENGTH, PARTS, song, TEMPO } from './song';
import { noiseSource, RATE, writeWave } from './sound';

/** A sound of one channel from its value at a second. */
const mono = (seconds: number, value: (t: number) => number): readonly Float64Array[] => [
  Float64Array.from({ length: Math.round(seconds * RATE) }, (_, i) => value(i / RATE)),
];
/** Noise through a band: two poles either side (state variable filter). */
function band(seed: number): (frequency: number, width: number) => number {
  const noise = noiseSource(seed);
  let [low, middle] = [0, 0];
  return (frequency, width) => {
    const f = 2 * Math.sin((Math.PI * frequency) / RATE);
    low += f * middle;
    middle += f * (noise() - low - width * middle);
    return middle * width;
  };
}
const bell = (t: number, at: number, width: number): number =>
  Math.exp(-((t - at) * (t - at)) / (2 * width * width));
/** A short knock at `at`: a decaying tone under a click. */
const knock = (t: number, at: number, f: number, dies: number): number =>
  t < at ? 0 : Math.sin(2 * Math.PI * f * (t - at)) * Math.exp(-(t - at) * dies);
const edges = (t: number, seconds: number): number =>
  Math.min(1, t / 0.01) * Math.min(1, (seconds - t) / 0.01);

/** The sounds beside the song. */
function effects(): Readonly<Record<string, readonly Float64Array[]>> {
  const air = band(21),
    reel = band(33),
    rattles = band(41),
    feathers = band(57),
    lamp = band(63);
  return {
    whoosh: mono(1.4, (t) => 1.1 * bell(t, 0.7, 0.2) * air(300 + 2200 * bell(t, 0.75, 0.25), 0.5)),
    winding: mono(2, (t) => {
      const turn = 5 + 9 * Math.min(1, t / 1.4);
      const squeal = Math.sin(2 * Math.PI * (420 * t + 160 * t * t));
      return (
        edges(t, 2) *
        (0.5 * reel(900 + 300 * t, 0.7) * (0.6 + 0.4 * Math.sin(2 * Math.PI * turn * t)) +
          0.04 * squeal)
      );
    }),
    rattle: mono(1.5, (t) => {
      const since = (t * 18) % 1;
      return edges(t, 1.5) * 0.9 * rattles(2600, 0.5) * Math.exp(-since * 7);
    }),
    wings: mono(1.6, (t) => {
      const beat = (t * 6.5) % 1;
      return 1.5 * bell(t, 0.8, 0.45) * feathers(500 + 500 * beat, 0.8) * bell(beat, 0.35, 0.16);
    }),
    shutter: mono(
      0.35,
      (t) =>
        edges(t, 0.35) *
        (0.5 * knock(t, 0.02, 1900, 90) +
          0.35 * knock(t, 0.11, 1300, 70) +
          0.2 * knock(t, 0.02, 240, 40)),
    ),
    projector: mono(3, (t) => {
      const claw = (t * 18) % 1;
      return (
        0.28 * lamp(1500, 0.6) * Math.exp(-claw * 6) +
        0.05 * Math.sin(2 * Math.PI * 50 * t) +
        0.03 * Math.sin(2 * Math.PI * 150 * t)
      );
    }),
  };
}

/** Integrated loudness, loudest three seconds, and true peak, by FFmpeg. */
function loudness(file: string): { integrated: number; shortTerm: number; truePeak: number } {
  const { stderr } = spawnSync(
    'ffmpeg',
    ['-hide_banner', '-i', file, '-af', 'ebur128=peak=true', '-f', 'null', '-'],
    { encoding: 'utf8' },
  );
  const summary = stderr.slice(stderr.indexOf('Summary:'));
  const number = (after: RegExp): number => Number(after.exec(summary)![1]);
  const short = [...stderr.matchAll(/ S:\s*(-?[\d.]+)/g)].map((m) => Number(m[1]));
  return {
    integrated: number(/I:\s+(-?[\d.]+) LUFS/),
    shortTerm: Math.max(...short),
    truePeak: number(/Peak:\s+(-?[\d.]+) dBFS/),
  };
}

const here = import.meta.dirname,
  to = join(here, 'sounds');
mkdirSync(to, { recursive: true });
for (const [name, channels] of Object.entries({ 'harbour-static': song(), ...effects() })) {
  const wave = join(tmpdir(), `wabisabi-${name}.wav`),
    flac = join(to, `${name}.flac`);
  writeWave(wave, channels);
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-y', '-i', wave, '-c:a', 'flac', '-compression_level', '12'],
    ...['-bitexact', '-map_metadata', '-1', flac],
  ]);
  rmSync(wave);
}
const file = join(to, 'harbour-static.flac');
writeFileSync(
  join(here, 'truth', 'harbour-static.song.json'),
  `${JSON.stringify({ tempo: TEMPO, seconds: LENGTH, parts: PARTS, ...beats(), loudness: loudness(file) }, null, 1)}\n`,
);
