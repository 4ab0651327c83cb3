/** Loudness: signals after EBU Tech 3341 (minimum requirements, shorter), and silence. */
import { describe, expect, it } from 'vitest';
import { loudness } from '.';

const HZ = 48_000;
const decibels = (db: number): number => 10 ** (db / 20);
interface Part {
  /** Of full scale, in dB. */
  readonly level: number;
  readonly seconds: number;
  readonly hz?: number;
  /** Of a turn. */
  readonly phase?: number;
}
/** A sine in parts, the same in each of some channels. */
function sine(parts: readonly Part[], channels = 2): Float32Array[] {
  const samples = new Float32Array(HZ * parts.reduce((sum, p) => sum + p.seconds, 0));
  let at = 0;
  for (const { level, seconds, hz = 1000, phase = 0 } of parts) {
    const amplitude = decibels(level);
    for (let n = 0; n < seconds * HZ; n++)
      samples[at++] = amplitude * Math.sin(2 * Math.PI * ((hz * n) / HZ + phase));
  }
  return Array.from({ length: channels }, () => samples);
}

describe('integrated loudness', () => {
  it.each([
    ['a steady tone at −23 dB', [{ level: -23, seconds: 8 }], -23],
    ['a steady tone at −33 dB', [{ level: -33, seconds: 8 }], -33],
    [
      'what is more than 10 LU below is not counted',
      [
        { level: -36, seconds: 4 },
        { level: -23, seconds: 24 },
        { level: -36, seconds: 4 },
      ],
      -23,
    ],
    [
      'nor what is under −70',
      [
        { level: -72, seconds: 4 },
        { level: -36, seconds: 4 },
        { level: -23, seconds: 24 },
        { level: -36, seconds: 4 },
        { level: -72, seconds: 4 },
      ],
      -23,
    ],
    [
      'louder and softer parts together',
      [
        { level: -26, seconds: 10 },
        { level: -20, seconds: 10 },
        { level: -26, seconds: 10 },
      ],
      -23,
    ],
  ])('%s', (_, parts, lufs) => {
    expect(Math.abs(loudness(sine(parts)).integrated - lufs)).toBeLessThan(0.1);
  });
  it('counts surround channels more, and low frequency effects not at all', () => {
    const level = (db: number) => sine([{ level: db, seconds: 8 }], 1)[0]!;
    const around = [-28, -28, -24, -10, -30, -30].map(level);
    expect(Math.abs(loudness(around).integrated + 23)).toBeLessThan(0.1);
  });
});

it('the loudest three seconds', () => {
  const parts = [
    { level: -40, seconds: 5 },
    { level: -23, seconds: 3 },
    { level: -40, seconds: 5 },
  ];
  expect(Math.abs(loudness(sine(parts)).shortTerm + 23)).toBeLessThan(0.1);
});

it('finds peaks between samples', () => {
  // A quarter of the rate, an eighth of a turn on: samples lie 3 dB under the peaks.
  const sound = sine([{ level: -6, seconds: 1, hz: HZ / 4, phase: 1 / 8 }], 1);
  expect(Math.max(...sound[0]!)).toBeCloseTo(decibels(-6) * Math.SQRT1_2, 5);
  const { truePeak } = loudness(sound);
  expect(truePeak).toBeGreaterThan(-6.4);
  expect(truePeak).toBeLessThan(-5.8);
});

it('silence has none, and neither has nothing', () => {
  for (const none of [[], [new Float32Array(0)], [new Float32Array(HZ)]])
    expect(loudness(none)).toEqual({
      integrated: -Infinity,
      shortTerm: -Infinity,
      truePeak: -Infinity,
    });
});
