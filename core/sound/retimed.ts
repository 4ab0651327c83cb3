/**
 * Sound along a retime: samples at other moments than they were recorded, so that pitch goes with
 * speed, as a tape or a turntable that is slowed down.
 */
import { framesPerSecond, type Rate, type RetimeMap } from '../time';
import { windowedSinc } from './sinc';

/** Planes of samples, a plane a channel. */
export type Channels = readonly Float32Array[];
/** The moment of the source, in its samples, at a sample of the result. */
export type Position = (sample: number) => number;

/** Zero crossings of the sinc on each side. */
const CROSSINGS = 32;
/** Table entries from one crossing to the next; read with lines between, within −100 dB. */
const FINE = 512;
/** Samples over which sound goes where its source stands still, and comes again. */
const FADE = 240;
/** Samples of the source per sample, below which it stands still. */
const STILL = 1e-6;

/** Half of a windowed sinc, from its middle to the last crossing. */
const TABLE = Float64Array.from({ length: CROSSINGS * FINE + 2 }, (_, i) =>
  windowedSinc(i / FINE, CROSSINGS),
);
function weightAt(x: number): number {
  const at = Math.abs(x) * FINE,
    i = Math.floor(at);
  return i > CROSSINGS * FINE ? 0 : TABLE[i]! + (at - i) * (TABLE[i + 1]! - TABLE[i]!);
}

/**
 * Samples `first` to `first + count − 1` of a sound along positions of its source, which is silent
 * beyond its ends. Where it runs faster than recorded, what would be too high is left out (the
 * sinc's width grows with speed); where it stands still it is silent, faded over five milliseconds
 * at 48 kHz. Any split into blocks gives the same samples.
 */
export function retimedSound(
  source: Channels,
  position: Position,
  first: number,
  count: number,
): Float32Array[] {
  const length = source[0]?.length ?? 0;
  const out = source.map(() => new Float32Array(count));
  const gain = movingShare(position, first, count);
  for (let i = 0; i < count; i++) {
    const loud = gain[i]!;
    if (loud === 0) continue;
    const p = position(first + i),
      speed = Math.abs(position(first + i + 1) - position(first + i - 1)) / 2;
    const narrow = 1 / Math.max(1, speed),
      reach = CROSSINGS / narrow;
    const from = Math.max(0, Math.ceil(p - reach)),
      to = Math.min(length - 1, Math.floor(p + reach));
    for (let k = from; k <= to; k++) {
      const w = narrow * weightAt((k - p) * narrow) * loud;
      for (let c = 0; c < source.length; c++) out[c]![i]! += w * source[c]![k]!;
    }
  }
  return out;
}

/** How far the source moves around each sample: 1 where it does, 0 in the middle of standing still. */
function movingShare(position: Position, first: number, count: number): Float64Array {
  const half = FADE / 2,
    moves = new Int32Array(count + FADE + 1);
  for (let i = 0; i < count + FADE; i++) {
    const n = first - half + i;
    const isMoving = Math.abs(position(n + 1) - position(n)) > STILL;
    moves[i + 1] = moves[i]! + (isMoving ? 1 : 0);
  }
  return Float64Array.from({ length: count }, (_, i) => (moves[i + FADE]! - moves[i]!) / FADE);
}

/** Positions along a retimed clip, whose rate is in frames per second and whose sound's is `rate`. */
export function alongRetime(
  map: Pick<RetimeMap, 'continuous'>,
  clip: Rate,
  rate: number,
): Position {
  const each = rate / framesPerSecond(clip);
  return (sample) => map.continuous(sample / each) * each;
}
/** Number of samples of a number of frames, to the nearest. */
export const samplesOf = (frames: number, clip: Rate, rate: number): number =>
  Math.round((frames * clip[1] * rate) / clip[0]);
