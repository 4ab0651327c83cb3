/** `cut-out`: a subject's matte from strokes on a few frames, as a video for a matte pin. */
import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Option } from 'commander';
import { isSubjectMark, nextWorthAMark, RADII, type SubjectMark } from '../core/subject';
import { cutsOf } from '../server/media/cuts';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { output, Sink } from '../server/media/run';
import { type Region, SpillFile } from '../server/media/spill';
import { subjectIn } from '../server/media/subjects';
import { needed, Usage, value, type Words } from './args';

/** Options of `cut-out`. */
export const CUT_OUT_OPTIONS: readonly Option[] = [
  value('in', 'file', 'a video, a picture or a folder of pictures'),
  value('strokes', 'file', 'strokes on frames, as .json'),
  value('out', 'file', 'the matte: white where the subject is, lossless, as .mkv'),
];

/** Strokes from a file. Throws `Usage`. */
async function marksIn(file: string, frames: number): Promise<readonly SubjectMark[]> {
  const wrong = (why: string): Usage => new Usage(`--strokes ${file}: ${why}`);
  let text: string, found: unknown;
  try {
    text = await readFile(file, 'utf8');
  } catch {
    throw wrong('there is no such file');
  }
  try {
    found = JSON.parse(text);
  } catch (e) {
    throw wrong(`it is not JSON: ${(e as Error).message}`);
  }
  const marks = (found as { marks?: unknown } | null)?.marks;
  if (!Array.isArray(marks)) throw wrong('it has no "marks"');
  marks.forEach((mark, i) => {
    if (!isSubjectMark(mark))
      throw wrong(
        `marks[${i}] must be a "frame" and "strokes", each with "on", a "radius" of ${RADII.join(' to ')} and "points": x and y in turn, in shares of the picture`,
      );
    if (mark.frame >= frames)
      throw wrong(`marks[${i}]: the footage has the frames 0 to ${frames - 1}`);
  });
  const all = marks as readonly SubjectMark[];
  if (!all.some((m) => m.strokes.some((s) => s.on)))
    throw wrong('no stroke lies on the subject ("on": true)');
  return all;
}

/** Cuts a subject out and writes its matte; words on how sure it is. Throws `Usage`. */
export async function cutOut(w: Words): Promise<string> {
  const from = needed(w, 'in'),
    out = needed(w, 'out');
  if (extname(out).toLowerCase() !== '.mkv') throw new Usage(`--out ${out} must end in .mkv`);
  const place = await placeOf(from);
  const put = new SpillFile();
  try {
    const facts = await probe(from, { place });
    const { width, height } = facts.format;
    const marks = await marksIn(needed(w, 'strokes'), facts.frames);
    const made = new Map<number, Region>(),
      sure: number[] = [];
    for await (const m of subjectIn(place, facts, { marks, cuts: await cutsOf(place, facts) })) {
      made.set(m.frame, put.write([m.matte.data]));
      sure[m.frame] = m.sure;
    }
    const sink = new Sink([
      ...['-f', 'rawvideo', '-pix_fmt', 'gray', '-s', `${width}x${height}`],
      ...['-r', facts.rate.join('/'), '-i', '-'],
      // Pixels of the footage's own shape, so that it lies on the footage.
      ...(facts.pixelAspect === 1 ? [] : ['-vf', `setsar=${facts.pixelAspect}:max=1000`]),
      ...['-c:v', 'ffv1', '-level', '3', '-g', '1', '-color_range', 'pc', output(out)],
    ]);
    const bytes = Buffer.alloc(width * height);
    for (let f = 0; f < facts.frames; f++) {
      const region = made.get(f);
      if (region) put.read(region, bytes);
      else bytes.fill(0);
      await sink.write(Uint8Array.from(bytes));
    }
    await sink.end();
    const lacks = facts.frames - made.size,
      next = nextWorthAMark(sure);
    return [
      `${made.size} frames cut out, ${marks.length} of them marked`,
      ...(lacks > 0 ? [`${lacks} in shots without strokes`] : []),
      ...(next === undefined
        ? []
        : [`least sure on frame ${next} (${Math.round(100 * sure[next]!)} %)`]),
    ].join('; ');
  } finally {
    put.close();
    await leave(place);
  }
}
