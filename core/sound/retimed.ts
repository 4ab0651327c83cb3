/**
 * Sound along a retime: samples at other moments than they were recorded, so that pitch goes with
 * speed, as a tape or a turntable that is slowed down.
 */
import { framesPerSecond, type Rate, type RetimeMap } from '../time';
import { windowedSinc } from './sinc';

/** Samples per second of all sound that is computed. */
export const SOUND_RATE = 48_000;
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
  // From half a fade before the block to half a fade and a sample after it.
  const positions = Float64Array.from({ length: count + FADE + 1 }, (_, i) =>
    position(first - FADE / 2 + i),
  );
  const gain = movingShare(positions);
  for (let i = 0; i < count; i++) {
    const loud = gain[i]!;
    if (loud === 0) continue;
    const at = i + FADE / 2,
      p = positions[at]!,
      speed = Math.abs(positions[at + 1]! - positions[at - 1]!) / 2;
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

/** How far the source moves around each sample of a block: 0 in the middle of standing still. */
function movingShare(positions: Float64Array): Float64Array {
  const moves = new Int32Array(positions.length);
  for (let i = 1; i < positions.length; i++) {
    const isMoving = Math.abs(positions[i]! - positions[i - 1]!) > STILL;
    moves[i] = moves[i - 1]! + (isMoving ? 1 : 0);
  }
  return Float64Array.from(
    { length: positions.length - FADE - 1 },
    (_, i) => (moves[i + FADE]! - moves[i]!) / FADE,
  );
}

/** Positions along a retimed clip of some frames per second. */
export function alongRetime(map: Pick<RetimeMap, 'continuous'>, clip: Rate): Position {
  const each = SOUND_RATE / framesPerSecond(clip);
  return (sample) => map.continuous(sample / each) * each;
}
/** Number of samples of a number of frames, to the nearest. */
export const samplesOf = (frames: number, clip: Rate): number =>
  Math.round((frames * clip[1] * SOUND_RATE) / clip[0]);
