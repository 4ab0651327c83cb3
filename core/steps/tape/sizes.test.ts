/** Tape as it comes out on frames of several sizes, measured there. */
import { describe, expect, it } from 'vitest';
import { lowerSteps, stepOf, type Use } from '..';
import { Engine } from '../../engine';
import { type Values, withDefaults } from '../../parameters';
import { type GradeId, GRADES } from '../../tape';
import { leafOf } from '../../testing';
import { tapeOf } from './raster';

const engine = new Engine({ limit: 1 << 30, helpers: 0 });
const SIZES = [
  [960, 540],
  [1280, 720],
  [1920, 1080],
] as const;
const use = (id: string, values: Partial<Values>, width: number, height: number): Use => ({
  step: stepOf(id)!,
  values: withDefaults(stepOf(id)!, values),
  mix: 1,
  at: { frame: 3, seconds: 0.12, rate: [25, 1], seed: 7, width, height },
});
/** Red of a picture of one number per pixel, under tape steps. */
function under(
  of: (x: number, y: number) => number,
  [width, height]: readonly [number, number],
  uses: readonly Use[],
): Float32Array {
  const plane = Float32Array.from({ length: width * height }, (_, i) =>
    of(i % width, Math.floor(i / width)),
  );
  const made = lowerSteps(uses, leafOf([plane, plane, plane], width, height, 'encoded'));
  return engine.memory.plane(engine.compute(made), 0).slice();
}

describe.each(SIZES)('on a frame of %i×%i', (width, height) => {
  it.each(Object.keys(GRADES) as GradeId[])(
    'luma of the grade %s is down by 3 dB where its data say',
    (grade) => {
      // A small height is enough: lines do not depend on one another.
      const rows = 48;
      const gainAt = (mhz: number): number => {
        // Cycles per pixel: the width stands for 52 µs.
        const f = (mhz * 52) / width;
        const shown = under(
          (x) => 0.45 + 0.15 * Math.cos(2 * Math.PI * f * x),
          [width, rows],
          [use('tape-signal', { grade, hue: 0 }, width, height)],
        );
        const [from, to] = [Math.floor(width * 0.2), Math.floor(width * 0.8)];
        const y = rows >> 1;
        // Fitted by least squares: cosine, sine and constant.
        let [re, im, n] = [0, 0, 0];
        for (let x = from; x < to; x++, n++) {
          const v = shown[y * width + x]! - 0.45;
          const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * (x - from)) / (to - from));
          re += v * w * Math.cos(2 * Math.PI * f * x);
          im += v * w * Math.sin(2 * Math.PI * f * x);
        }
        return (4 * Math.hypot(re, im)) / n / 0.15;
      };
      let [low, high] = [0.5, 6];
      for (let i = 0; i < 14; i++) {
        const middle = (low + high) / 2;
        if (gainAt(middle) > Math.SQRT1_2) low = middle;
        else high = middle;
      }
      expect(Math.abs(low / GRADES[grade].luma.width - 1)).toBeLessThan(0.05);
    },
  );

  it('noise has its effective value, alike on all rows', () => {
    const shown = under(
      () => 0.5,
      [width, height],
      [use('tape-noise', { grade: 'home', luma: 100, colour: 0 }, width, height)],
    );
    const sds = Array.from({ length: height }, (_, y) => {
      const line = shown.subarray(y * width, (y + 1) * width);
      const mean = line.reduce((a, b) => a + b, 0) / width;
      return Math.sqrt(line.reduce((a, b) => a + (b - mean) ** 2, 0) / width);
    });
    const rms = Math.sqrt(sds.reduce((a, b) => a + b * b, 0) / height);
    const dB = -20 * Math.log10(rms);
    // Rows of one phase against the raster, averaged: the largest over the smallest.
    const period = height === 540 ? 15 : height === 720 ? 5 : 15;
    const byPhase = Array.from({ length: period }, (_, p) => {
      const own = sds.filter((_, y) => y % period === p);
      return Math.sqrt(own.reduce((a, b) => a + b * b, 0) / own.length);
    });
    expect(Math.abs(dB - GRADES.home.lumaNoise)).toBeLessThan(0.5);
    expect(Math.max(...byPhase) / Math.min(...byPhase)).toBeLessThan(1.06);
  });
});

it('colour is lost on as many lines as are set, and a head switch moves as many rows', () => {
  const frames = 24,
    [width, height] = [96, 576];
  for (const burst of [5, 10, 25, 50]) {
    let lost = 0;
    for (let frame = 0; frame < frames; frame++) {
      const signal = use('tape-signal', { burst, hue: 0, grade: 'studio' }, width, height);
      const red = [0.7, 0.3, 0.3].map((v) => new Float32Array(width * height).fill(v));
      const made = tapeOf(
        lowerSteps(
          [{ ...signal, at: { ...signal.at, frame, seed: 11 + 97 * frame } }],
          leafOf(red, width, height, 'encoded'),
        ),
      )!.raster;
      const chroma = engine.memory.plane(engine.compute(made), 2);
      for (let y = 0; y < made.height; y++)
        if (Math.abs(chroma[y * made.width + 360]!) < 1e-6) lost++;
    }
    expect(Math.abs(lost / (576 * frames) - burst / 100)).toBeLessThan(0.03 + burst / 1500);
  }
  const step = use('head-switch', { rows: 8, shift: 10, noise: 0, skew: 0 }, 720, 576);
  const edge = Float32Array.from({ length: 720 * 576 }, (_, i) => (i % 720 < 360 ? 0.2 : 0.8));
  const made = tapeOf(lowerSteps([step], leafOf([edge, edge, edge], 720, 576, 'encoded')))!;
  const [before, after] = [made.source, made.raster].map((r) =>
    engine.memory.plane(engine.compute(r), 0).slice(),
  );
  const moved = Array.from({ length: 576 }, (_, y) =>
    Array.from({ length: 720 }, (_, x) => y * 720 + x).some(
      (i) => Math.abs(before![i]! - after![i]!) > 0.01,
    ),
  );
  expect(moved.map((m, y) => (m ? y : -1)).filter((y) => y >= 0)).toEqual([
    568, 569, 570, 571, 572, 573, 574, 575,
  ]);
});
