import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { columnsOf, LoudnessMeter, loudness, PEAK_ZOOMS, PeakMeter, zoomFor } from '.';

const noise = (length: number, seed = 3): Float32Array => {
  let s = seed;
  return Float32Array.from({ length }, () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return (s / 2147483648 - 1) * 0.4;
  });
};
/** A sound cut into blocks at some places. */
const inBlocks = (sound: readonly Float32Array[], cuts: readonly number[]) => {
  const at = [...new Set([0, ...cuts, sound[0]!.length])].sort((a, b) => a - b);
  return at.slice(1).map((end, i) => sound.map((c) => c.subarray(at[i], end)));
};

describe('peaks', () => {
  it('are the lowest and highest sample of each stretch, of all channels, at every zoom', () => {
    const sound = [noise(70_000), noise(70_000, 9)];
    sound[1]![300] = 0.9;
    sound[0]![66_000] = -0.8;
    const meter = new PeakMeter();
    meter.add(sound);
    for (const zoom of PEAK_ZOOMS) {
      const peaks = meter.at(zoom);
      expect(peaks.length).toBe(2 * Math.ceil(70_000 / zoom));
      for (let i = 0; i < peaks.length / 2; i++) {
        const all = sound.flatMap((c) => [...c.subarray(i * zoom, (i + 1) * zoom)]);
        const lowest = all.reduce((a, b) => Math.min(a, b), 1),
          highest = all.reduce((a, b) => Math.max(a, b), -1);
        expect(peaks[2 * i]).toBe(Math.floor(lowest * 32_767));
        expect(peaks[2 * i + 1]).toBe(Math.ceil(highest * 32_767));
      }
    }
  });
  it('and loudness are the same in whatever blocks it is read', () => {
    const sound = [noise(30_000), noise(30_000, 5)];
    const whole = loudness(sound),
      once = new PeakMeter();
    once.add(sound);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 29_999 }), { maxLength: 6 }), (cuts) => {
        const meter = new LoudnessMeter(2),
          peaks = new PeakMeter();
        for (const block of inBlocks(sound, cuts)) {
          meter.add(block);
          peaks.add(block);
        }
        expect(meter.result()).toEqual(whole);
        expect(peaks.at(256)).toEqual(once.at(256));
      }),
      { numRuns: 20 },
    );
  });
  it('fill the columns of a picture, none of them lost', () => {
    const meter = new PeakMeter();
    const sound = noise(100_000);
    sound[51_234] = 0.95;
    meter.add([sound]);
    for (const columns of [1, 7, 100, 391, 900]) {
      const shown = columnsOf(meter.at(256), columns);
      expect(shown.length).toBe(2 * columns);
      expect(Math.max(...shown)).toBe(Math.ceil(0.95 * 32_767));
    }
    expect(columnsOf(new Int16Array(0), 3)).toEqual(new Int16Array(6));
  });
  it('are read at the zoom that a picture needs', () => {
    expect(zoomFor(48_000 * 24, 600)).toBe(256);
    expect(zoomFor(48_000 * 240, 600)).toBe(4096);
    expect(zoomFor(48_000 * 3600, 600)).toBe(65_536);
    expect(zoomFor(100, 600)).toBe(256);
  });
});
