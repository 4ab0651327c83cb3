/**
 * `npm run subjects [-- clip …]`: cuts subjects out of the demo's clips by the strokes in
 * `demo/truth`, and prints how much of the truth is met: on the marked frame, on all frames from it
 * alone, and with four corrected frames. Corrections are those of a person who goes to the frame that
 * is proposed and dabs on what is most wrong there.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RawFrame } from '../core';
import {
  type MadeMatte,
  type Matte,
  nextWorthAMark,
  type Stroke,
  type SubjectMark,
  subjectMattes,
} from '../core/subject';
import { motionOfFrames, type Pair, settled, trackedFrame } from '../core/trace';
import { frames } from '../server/media/decode';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';

interface Fixture {
  readonly marks: readonly SubjectMark[];
  /** A disc that belongs to the subject besides the truth's matte: centre and radius, in shares. */
  readonly with?: { readonly disc: readonly [number, number, number] };
}
const CORRECTED = 4,
  DABS = 4;
const args = process.argv.slice(2),
  only = args.filter((a) => !a.startsWith('--')),
  shown = args.find((a) => a.startsWith('--show='))?.slice(7);
const names = readdirSync('demo/truth')
  .filter((f) => f.endsWith('.strokes.json'))
  .map((f) => f.replace('.strokes.json', ''))
  .filter((n) => only.length === 0 || only.includes(n));

async function decoded(file: string): Promise<RawFrame[]> {
  const place = await placeOf(file, {});
  const facts = await probe(file, { place });
  const all: RawFrame[] = [];
  for await (const raw of frames(place, facts, 0, facts.frames - 1)) all.push(raw);
  await leave(place);
  return all;
}
function truthOf({ format, planes }: RawFrame, fixture: Fixture): Uint8Array {
  const { width, height } = format,
    [x, y, r] = fixture.with?.disc ?? [0, 0, 0];
  return Uint8Array.from({ length: width * height }, (_, o) => {
    const dx = (o % width) + 0.5 - x * width,
      dy = Math.floor(o / width) + 0.5 - y * height;
    return planes[0]![o]! >= 126 || dx * dx + dy * dy < (r * height) ** 2 ? 1 : 0;
  });
}
/** Intersection over union of a matte at one half. */
function met({ data }: Matte, truth: Uint8Array): number {
  let [both, any] = [0, 0];
  for (let o = 0; o < truth.length; o++) {
    const on = data[o]! >= 128;
    if (on && truth[o]) both++;
    if (on || truth[o]) any++;
  }
  return any === 0 ? 1 : both / any;
}
/** Dabs on what is most wrong: each in the middle of the largest part, as large as fits. */
function dabs({ width, height, data }: Matte, truth: Uint8Array): Stroke[] {
  const out: Stroke[] = [];
  const wrong = Uint8Array.from(truth, (t, o) => (data[o]! >= 128 !== (t === 1) ? 1 : 0));
  for (let n = 0; n < DABS; n++) {
    // Distance to what is right, by rows and columns.
    const deep = new Float32Array(width * height);
    for (let o = 0; o < deep.length; o++)
      if (wrong[o]) deep[o] = 1 + Math.min(deep[o - 1] ?? 0, deep[o - width] ?? 0);
    for (let o = deep.length - 1; o >= 0; o--)
      if (wrong[o])
        deep[o] = Math.min(deep[o]!, 1 + Math.min(deep[o + 1] ?? 0, deep[o + width] ?? 0));
    const best = deep.reduce((b, v, o) => (v > deep[b]! ? o : b), 0);
    if (deep[best]! < 3) break;
    const [x, y, r] = [best % width, Math.floor(best / width), deep[best]! * 0.7];
    out.push({
      on: truth[best] === 1,
      radius: Math.max(0.002, r / height),
      points: [(x + 0.5) / width, (y + 0.5) / height],
    });
    for (let j = -3 * r; j <= 3 * r; j++)
      for (let i = -3 * r; i <= 3 * r; i++) {
        const o = Math.round(y + j) * width + Math.round(x + i);
        if (o >= 0 && o < wrong.length) wrong[o] = 0;
      }
  }
  return out;
}
const mean = (all: readonly number[]): number => all.reduce((n, v) => n + v, 0) / all.length;
const said = (v: number): string => v.toFixed(3);

for (const name of names) {
  const fixture = JSON.parse(
    readFileSync(join('demo/truth', `${name}.strokes.json`), 'utf8'),
  ) as Fixture;
  const all = await decoded(join('demo/footage', `${name}.mp4`)),
    truths = (await decoded(join('demo/truth', `${name}.matte.mp4`))).map((t) =>
      truthOf(t, fixture),
    );
  const pairs = new Map<number, Pair>();
  const source = {
    frame: (at: number) => Promise.resolve(all[at]!),
    pair: (at: number) => {
      const known = pairs.get(at);
      if (known) return Promise.resolve(known);
      const made = settled(motionOfFrames(trackedFrame(all[at]!), trackedFrame(all[at + 1]!)));
      pairs.set(at, made);
      return Promise.resolve(made);
    },
  };
  for (let f = 0; f + 1 < all.length; f++) await source.pair(f);
  const run = async (marks: readonly SubjectMark[]): Promise<MadeMatte[]> => {
    const made: MadeMatte[] = [];
    for await (const m of subjectMattes({ marks, cuts: [] }, all.length, source)) made[m.frame] = m;
    return made;
  };
  const marks = [...fixture.marks],
    first = marks[0]!.frame;
  const began = performance.now();
  let made = await run(marks);
  const each = (performance.now() - began) / all.length;
  const figures = (): string => {
    const own = made.map(({ matte, frame }) => met(matte, truths[frame]!));
    const flicker =
      made.slice(1).reduce((sum, { matte, frame }) => {
        const before = made[frame - 1]!.matte.data;
        let [apart, true_] = [0, 0];
        for (let o = 0; o < before.length; o++) {
          const d = matte.data[o]! - 255 * truths[frame]![o]!,
            b = before[o]! - 255 * truths[frame - 1]![o]!;
          apart += Math.abs(d - b);
          true_ += 255 * truths[frame]![o]!;
        }
        return sum + apart / Math.max(1, true_);
      }, 0) /
      (made.length - 1);
    const worst = own.reduce((b, v, f) => (v < own[b]! ? f : b), 0);
    // Of the frames that are clearly worse, how many are among the tenth that is least sure.
    const median = [...own].sort((a, b) => a - b)[own.length >> 1]!;
    const least = new Set(
      [...made]
        .sort((a, b) => a.sure - b.sure)
        .slice(0, Math.ceil(made.length / 10))
        .map((m) => m.frame),
    );
    const bad = made.filter((m) => own[m.frame]! < median - 0.05);
    return `mean ${said(mean(own))}  worst ${said(own[worst]!)} at ${worst}  flicker ${said(flicker)}  least sure hold ${bad.filter((m) => least.has(m.frame)).length} of ${bad.length} bad`;
  };
  console.log(
    `${name.padEnd(14)} marked frame ${said(met(made[first]!.matte, truths[first]!))}  ${figures()}  ${each.toFixed(0)} ms a frame`,
  );
  for (let n = 1; n <= (args.includes('--once') ? 0 : CORRECTED); n++) {
    const next = nextWorthAMark(made.map((m) => m.sure))!;
    const strokes = dabs(made[next]!.matte, truths[next]!);
    if (strokes.length === 0) break;
    marks.push({ frame: next, strokes });
    made = await run(marks);
    console.log(`  and frame ${String(next).padStart(3)} (${strokes.length} dabs)  ${figures()}`);
  }
  if (shown)
    for (const f of shown.split(',').map(Number)) {
      const { width, height, data } = made[f]!.matte;
      writeFileSync(
        `/tmp/f/${name}-${f}.pgm`,
        Buffer.concat([Buffer.from(`P5 ${width} ${height} 255\n`), data]),
      );
    }
}
