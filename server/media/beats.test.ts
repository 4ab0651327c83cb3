/** Beats found in the demo's song and in synthesised pieces, held to where they are (±70 ms). */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { BEATS_FOUND, beatsAs, type BeatsSaid, countedBy } from '../../core';
import { BEATS_RATE, beatsIn } from './beats';
import { monoOfFile } from './sound-samples';

/** F-measure of beats within 70 ms. */
function measured(found: readonly number[], truth: readonly number[]): number {
  const left = [...found];
  const hits = truth.filter((t) => {
    const i = left.findIndex((b) => Math.abs(b - t) <= 0.07);
    if (i >= 0) left.splice(i, 1);
    return i >= 0;
  }).length;
  return (2 * hits) / (found.length + truth.length);
}
/** The best that one press of *half* or *double* gives, or none. */
const pressed = (found: readonly number[], truth: readonly number[]): number =>
  Math.max(
    ...(['each', 'half', 'double'] as const).map((counted) => {
      const said: BeatsSaid =
        counted === 'each' ? BEATS_FOUND : countedBy(found, BEATS_FOUND, counted);
      return measured(beatsAs(found, said).beats, truth);
    }),
  );

interface Piece {
  readonly beatAt: (n: number) => number;
  readonly swing?: number;
  readonly drums?: boolean;
  /** Seconds without drums. */
  readonly quiet?: readonly [number, number];
}
const SECONDS = 30;
function played({ beatAt, swing = 0.5, drums = true, quiet = [0, 0] }: Piece) {
  let seed = 1;
  const noise = (): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2147483648 - 1;
  };
  const sound = new Float32Array(SECONDS * BEATS_RATE),
    truth: number[] = [];
  const add = (at: number, seconds: number, value: (t: number) => number) => {
    const first = Math.round(at * BEATS_RATE);
    for (let i = 0; i < seconds * BEATS_RATE && first + i < sound.length; i++)
      sound[first + i]! += value(i / BEATS_RATE);
  };
  for (let n = 0; beatAt(n) < SECONDS; n++) {
    const at = beatAt(n),
      next = beatAt(n + 1);
    truth.push(at);
    if (drums && !(at >= quiet[0] && at < quiet[1])) {
      if (n % 2 === 0) add(at, 0.3, (t) => 0.7 * Math.sin(345 * t) * Math.exp(-t * 12));
      else add(at, 0.2, (t) => 0.4 * noise() * Math.exp(-t * 20));
      add(at, 0.05, (t) => 0.1 * noise() * Math.exp(-t * 80));
      add(at + (next - at) * swing, 0.05, (t) => 0.08 * noise() * Math.exp(-t * 80));
    }
    const f = 220 * 2 ** ([0, 3, 7, 5][n % 4]! / 12);
    add(
      at,
      0.6,
      (t) => 0.2 * Math.min(1, t / 0.004) * Math.sin(2 * Math.PI * f * t) * Math.exp(-t * 4),
    );
  }
  return { sound, truth };
}
const steady = (tempo: number) => (n: number) => 0.2 + (n * 60) / tempo;

describe('beats', () => {
  it.each<[string, Piece, number]>([
    ['steady', { beatAt: steady(120) }, 0.95],
    ['fast', { beatAt: steady(180) }, 0.95],
    ['slow', { beatAt: steady(60) }, 0.95],
    ['swung', { beatAt: steady(96), swing: 0.66 }, 0.95],
    ['with a break', { beatAt: steady(120), quiet: [10, 16] }, 0.95],
    ['without drums', { beatAt: steady(80), drums: false }, 0.95],
    ['with a tempo that changes', { beatAt: (n) => (n < 20 ? 0.2 + n * 0.6 : 2.2 + n * 0.5) }, 0.9],
  ])('of a piece %s are found, with one press at most', async (_, piece, least) => {
    const { sound, truth } = played(piece);
    expect(pressed(await beatsIn(sound), truth)).toBeGreaterThanOrEqual(least);
  });
  it('of the demo’s song are found, with one press', async () => {
    const { beats, bars } = JSON.parse(
      readFileSync('demo/truth/harbour-static.song.json', 'utf8'),
    ) as { beats: number[]; bars: number[] };
    const mono = await monoOfFile('demo/sounds/harbour-static.flac', BEATS_RATE);
    const found = await beatsIn(mono!);
    expect(pressed(found, beats)).toBeGreaterThanOrEqual(0.95);
    const said = countedBy(found, BEATS_FOUND, 'half');
    expect(measured(beatsAs(found, said).bars, bars)).toBeGreaterThanOrEqual(0.8);
  });
  it('are none in silence and in what is too short', async () => {
    expect(await beatsIn(new Float32Array(BEATS_RATE * 5))).toEqual([]);
    expect(await beatsIn(new Float32Array(0))).toEqual([]);
  });
  it('are no longer looked for where somebody stops it', async () => {
    const stopped = AbortSignal.abort();
    await expect(beatsIn(new Float32Array(BEATS_RATE), stopped)).rejects.toThrow(/abort/i);
  });
});
