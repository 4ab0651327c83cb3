/**
 * The measured motion of the demo's clips against the truth from their generator, and how it is
 * stored.
 */
import { mkdtempSync, readdirSync, readFileSync, rmSync, truncateSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, describe, expect, it } from 'vitest';
import type { RawFrame } from '../../core';
import { between, motionOfFrames, trackedFrame } from '../../core/trace';
import { frames } from './decode';
import type { Footage } from './footage';
import { PairFinder } from './motion';
import { partsIn } from './parts';
import { type Place, placeOf } from './place';
import { probe } from './probe';

interface Clip {
  readonly place: Place;
  readonly facts: Footage;
}
const clips = new Map<string, Promise<Clip>>();
const clipOf = (name: string): Promise<Clip> => {
  const known =
    clips.get(name) ??
    placeOf(`demo/footage/${name}.mp4`, {}).then(async (place) => ({
      place,
      facts: await probe(place.file, { place }),
    }));
  clips.set(name, known);
  return known;
};
async function decoded(name: string, first: number, last: number): Promise<RawFrame[]> {
  const { place, facts } = await clipOf(name);
  const all: RawFrame[] = [];
  for await (const raw of frames(place, facts, first, last)) all.push(raw);
  return all;
}

/** `truth/NAME.motion.gz` as `demo/generate.ts` writes it. */
function truthOf(name: string) {
  const bytes = gunzipSync(readFileSync(`demo/truth/${name}.motion.gz`)),
    end = bytes.indexOf(10);
  const head = JSON.parse(bytes.subarray(0, end).toString()) as {
    size: [number, number];
    first: number;
    spacing: number;
    frames: number[];
  };
  const data = new Int16Array(
    bytes.buffer.slice(bytes.byteOffset + end + 1, bytes.byteOffset + bytes.length),
  );
  return { ...head, data };
}
const share = (errors: number[], p: number): number =>
  errors.sort((a, b) => a - b)[Math.floor(errors.length * p)]!;

interface Followed {
  readonly object: number;
  /** In pixels. */
  readonly error: number;
}
const followed = new Map<string, Promise<Followed[]>>();
/**
 * Distances of measured from true motion to the next frame, at textured points where both
 * directions agree.
 */
async function errorsOf(name: string, of: (object: number) => boolean): Promise<number[]> {
  const known = followed.get(name) ?? follow(name);
  followed.set(name, known);
  return (await known).filter((f) => of(f.object)).map((f) => f.error);
}
async function follow(name: string): Promise<Followed[]> {
  const { size, first, spacing, frames: at, data } = truthOf(name);
  const [w, h] = size.map((s) => Math.ceil((s - first) / spacing)) as [number, number];
  const errors: Followed[] = [];
  // Every second frame for which the truth is known.
  for (let k = 0; k < at.length; k += 2) {
    const [a, b] = await decoded(name, at[k]!, at[k]! + 1);
    const { forward, backward } = motionOfFrames(trackedFrame(a!), trackedFrame(b!));
    const luma = a!.planes[0]!;
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const i = (2 * k * w * h + y * w + x) * 4;
        const [u, v, object, seen] = data.subarray(i, i + 4) as unknown as [
          number,
          number,
          number,
          number,
        ];
        const [px, py] = [first + x * spacing, first + y * spacing];
        if (object === 0 || seen !== 1) continue;
        let [low, high] = [255, 0];
        for (let dy = -2; dy <= 2; dy++)
          for (let dx = -2; dx <= 2; dx++) {
            const l =
              luma[
                Math.max(0, Math.min(size[1] - 1, py + dy)) * size[0] +
                  Math.max(0, Math.min(size[0] - 1, px + dx))
              ]!;
            [low, high] = [Math.min(low, l), Math.max(high, l)];
          }
        if (high - low <= 12) continue;
        const o = (py >> 1) * forward.width + (px >> 1);
        const back =
          Math.max(0, Math.min(forward.height - 1, Math.round((py >> 1) + forward.v[o]!))) *
            forward.width +
          Math.max(0, Math.min(forward.width - 1, Math.round((px >> 1) + forward.u[o]!)));
        if (
          2 * Math.hypot(forward.u[o]! + backward.u[back]!, forward.v[o]! + backward.v[back]!) >
          1
        )
          continue;
        errors.push({
          object,
          error: Math.hypot(2 * forward.u[o]! - u / 64, 2 * forward.v[o]! - v / 64),
        });
      }
  }
  return errors;
}

describe('the motion of the demo’s clips', () => {
  it.each([
    ['coast-van', 'the ground', (o: number) => o === 1, 0.4, 1.2],
    ['coast-van', 'the van', (o: number) => o === 2, 0.5, 1.2],
    ['gulls', 'masts', (o: number) => o >= 1 && o < 10, 1, 1.2],
    ['gulls', 'birds', (o: number) => o >= 10, 1.3, 4],
    ['deck-dancer', 'deck and rails', (o: number) => o === 1 || o === 2, 0.5, 1],
    ['deck-dancer', 'the dancer', (o: number) => o >= 3, 0.8, 3],
    ['pier-walk', 'planks', (o: number) => o === 1, 0.6, 2],
    ['pier-walk', 'who walks', (o: number) => o >= 3, 0.8, 3],
    ['white-room', 'who turns', (o: number) => o >= 3, 1.2, 3],
    ['singer-close', 'the head', (o: number) => o === 1, 0.4, 1.5],
    ['radio-dial', 'knob and hand', (o: number) => o >= 3, 0.8, 1.6],
    ['floor-tom', 'what stands still', (o: number) => o === 1, 0.6, 2],
    ['skyline', 'the town', (o: number) => o === 1, 0.2, 0.5],
    ['lighthouse-turn', 'tower and rock', (o: number) => o >= 1, 0.4, 2],
    ['kelp', 'bells', (o: number) => o >= 1, 0.8, 2],
    ['rain-window', 'drops that stay', (o: number) => o === 2, 0.4, 1],
  ] as const)('is true in %s: %s', async (name, _, of, middle, most) => {
    const errors = await errorsOf(name, of);
    expect(errors.length).toBeGreaterThan(300);
    expect(share(errors, 0.5)).toBeLessThanOrEqual(middle);
    expect(share(errors, 0.9)).toBeLessThanOrEqual(most);
  });

  it.each([
    ['coast-van', 30, 2, 3],
    ['coast-van', 30, 4, 4],
    ['gulls', 24, 2, 2],
    ['deck-dancer', 40, 2, 0.4],
    ['floor-tom', 66, 2, -0.1],
  ])(
    'makes the frames between those of %s from %i on, every %i-th kept, better than a mix by %f dB',
    async (name, first, apart, least) => {
      const all = await decoded(name, first, first + apart);
      const luma = all.map((f) => Float32Array.from(f.planes[0]!));
      const [a, b] = [luma[0]!, luma.at(-1)!];
      const { width, height } = all[0]!.format;
      const pair = motionOfFrames(trackedFrame(all[0]!), trackedFrame(all.at(-1)!));
      let [made, mixed] = [0, 0];
      for (let k = 1; k < apart; k++) {
        const t = k / apart,
          m = between(pair, t),
          small = { width: m.width, height: m.height };
        for (let y = 0, o = 0; y < height; y++)
          for (let x = 0; x < width; x++, o++) {
            const of = (f: Float32Array) =>
              reading(f, small, (x + 0.5) / 2 - 0.5, (y + 0.5) / 2 - 0.5);
            const [u, v, w, sure] = [2 * of(m.u), 2 * of(m.v), of(m.second), of(m.sure)];
            const moved =
              (1 - w) * reading(a, { width, height }, x - t * u, y - t * v) +
              w * reading(b, { width, height }, x + (1 - t) * u, y + (1 - t) * v);
            const plain = (1 - t) * a[o]! + t * b[o]!;
            mixed += (plain - luma[k]![o]!) ** 2;
            made += (sure * moved + (1 - sure) * plain - luma[k]![o]!) ** 2;
          }
      }
      expect(10 * Math.log10(mixed / made)).toBeGreaterThanOrEqual(least);
    },
  );
});
function reading(
  f: Float32Array,
  { width, height }: { width: number; height: number },
  x: number,
  y: number,
): number {
  const fx = Math.max(0, Math.min(width - 1, x)),
    fy = Math.max(0, Math.min(height - 1, y));
  const [x0, y0] = [Math.floor(fx), Math.floor(fy)],
    [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  const row = (r: number) =>
    f[r * width + x0]! + (f[r * width + x1]! - f[r * width + x0]!) * (fx - x0);
  return row(y0) + (row(y1) - row(y0)) * (fy - y0);
}

describe('motion that is kept', () => {
  const folder = mkdtempSync(join(tmpdir(), 'wabisabi-motion-test-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('is measured once, found again, and measured anew where a file was cut short', async () => {
    const all = await decoded('gulls', 10, 12);
    let read = 0;
    const finder = () =>
      new PairFinder(
        async (f) => {
          read++;
          return all[f - 10]!;
        },
        partsIn(folder, 'motion'),
      );
    const first = (await finder().at(10)).pair();
    expect(read).toBe(2);
    expect(readdirSync(folder)).toEqual(['000010.gz']);
    expect((await finder().at(10)).pair()).toEqual(first);
    expect(read).toBe(2);
    truncateSync(join(folder, '000010.gz'), 500);
    expect((await finder().at(10)).pair()).toEqual(first);
    expect(read).toBe(4);
    // Two pairs in a row share a frame, which is analysed once.
    const both = finder();
    await both.at(11);
    read = 0;
    await both.at(10);
    expect(read).toBe(0);
  });
});
