/** Waveforms as pictures need them: the lowest and highest sample of stretches, at three zooms. */
import type { Channels } from './retimed';

/** Samples of a stretch at each zoom; each is a whole number of those of the one before. */
export const PEAK_ZOOMS = [256, 4096, 65_536] as const;
/** One of `PEAK_ZOOMS`. */
export type PeakZoom = (typeof PEAK_ZOOMS)[number];
/** Version of the method and of its file. Results of another version are made again. */
export const PEAKS_METHOD = 'peaks-1';

/** Lowest and highest of each stretch in turns, as 16-bit integers of full scale. */
export type Peaks = Int16Array;
const FULL = 32_767;
const inRange = (v: number): number => Math.max(-FULL, Math.min(FULL, v));

/** Finds the peaks of a sound block by block, those of all its channels together. */
export class PeakMeter {
  private readonly fine: number[] = [];
  private low = Infinity;
  private high = -Infinity;
  private count = 0;

  /** The next samples, any number of them. */
  add(block: Channels): void {
    const length = block[0]?.length ?? 0;
    for (let i = 0; i < length; i++) {
      for (const channel of block) {
        const v = channel[i]!;
        if (v < this.low) this.low = v;
        if (v > this.high) this.high = v;
      }
      if (++this.count === PEAK_ZOOMS[0]) this.close();
    }
  }
  private close(): void {
    if (this.count === 0) return;
    this.fine.push(inRange(Math.floor(this.low * FULL)), inRange(Math.ceil(this.high * FULL)));
    this.low = Infinity;
    this.high = -Infinity;
    this.count = 0;
  }

  /** The peaks at a zoom of all that was added; the last stretch may be shorter. */
  at(zoom: PeakZoom): Peaks {
    this.close();
    const each = zoom / PEAK_ZOOMS[0],
      stretches = this.fine.length / 2;
    const out = new Int16Array(2 * Math.ceil(stretches / each)).fill(FULL);
    for (let i = 1; i < out.length; i += 2) out[i] = -FULL;
    for (let i = 0; i < stretches; i++) {
      const o = 2 * Math.floor(i / each);
      out[o] = Math.min(out[o]!, this.fine[2 * i]!);
      out[o + 1] = Math.max(out[o + 1]!, this.fine[2 * i + 1]!);
    }
    return out;
  }
}

/**
 * The peaks of so many columns of a picture, the whole sound across; of a stretch that lies across
 * two columns both show it.
 */
export function columnsOf(peaks: Peaks, columns: number): Peaks {
  const stretches = peaks.length / 2,
    out = new Int16Array(2 * columns);
  for (let c = 0; c < columns && stretches > 0; c++) {
    const first = Math.min(stretches - 1, Math.floor((c * stretches) / columns)),
      end = Math.max(first + 1, Math.ceil(((c + 1) * stretches) / columns));
    let [low, high] = [FULL, -FULL];
    for (let i = first; i < end; i++) {
      low = Math.min(low, peaks[2 * i]!);
      high = Math.max(high, peaks[2 * i + 1]!);
    }
    out[2 * c] = low;
    out[2 * c + 1] = high;
  }
  return out;
}
/** The coarsest zoom that still has a stretch for every column. */
export const zoomFor = (samples: number, columns: number): PeakZoom =>
  [...PEAK_ZOOMS].reverse().find((z) => samples / z >= columns) ?? PEAK_ZOOMS[0];
