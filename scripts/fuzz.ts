/**
 * npm run fuzz -- 10000 [seed]: files of every kind that is read, damaged by chance from a seed and
 * probed, as many at a time as there are cores. Says how many were refused, accepted, and accepted
 * with a warning; any that crashed, hung or left something over are faults.
 *
 * npm run fuzz -- 100 [seed] times: whole files whose times, sizes or pixel shapes are beyond
 * reason. With a folder as a fourth word they are left there.
 */
import { copyFile, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { NotFootage } from '../server/media/footage';
import { probe } from '../server/media/probe';
import { run } from '../server/media/run';

const count = Number(process.argv[2] ?? 1000),
  seed = Number(process.argv[3] ?? 1),
  strange = process.argv[4] === 'times',
  keptIn = process.argv[5];
/** A file that takes longer (ms) has hung. */
const LONGEST = 30_000;
const tmp = await mkdtemp(join(tmpdir(), 'wabisabi-fuzz-'));

/** Numbers 0 ≤ u < 1 (mulberry32). */
function randomFrom(start: number): () => number {
  let a = start >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const CLIP = 'demo/footage/radio-dial.mp4';
const small = ['-i', CLIP, '-t', '0.6', '-vf', 'scale=160:90', '-an'];
const KINDS: Record<string, string[]> = {
  'a.mp4': [...small, '-c:v', 'libx264', '-pix_fmt', 'yuv420p'],
  'b.mov': [...small, '-c:v', 'prores_ks'],
  'c.mkv': [...small, '-c:v', 'ffv1'],
  'd.webm': [...small, '-c:v', 'libvpx-vp9', '-g', '5'],
  'e.avi': [...small, '-c:v', 'mjpeg', '-pix_fmt', 'yuvj420p'],
  'f.ts': [...small, '-c:v', 'mpeg2video'],
  'g.gif': small,
  'h.apng': [...small, '-f', 'apng'],
  ...Object.fromEntries(
    ['png', 'jpg', 'tiff', 'bmp', 'exr', 'dpx', 'webp', 'tga'].map((e) => [
      `p.${e}`,
      [...small, '-frames:v', '1', '-update', '1'],
    ]),
  ),
};

async function originals(): Promise<[string, Buffer][]> {
  for (const [name, args] of Object.entries(KINDS)) await run('ffmpeg', [...args, join(tmp, name)]);
  return Promise.all(
    Object.keys(KINDS).map(async (name): Promise<[string, Buffer]> => [
      name,
      await readFile(join(tmp, name)),
    ]),
  );
}

/**
 * One of the ways in which files are damaged: cut, bytes changed, a stretch zeroed, doubled, moved
 * or left out.
 */
function damaged(bytes: Buffer, random: () => number): Buffer {
  const at = (n = bytes.length): number => Math.floor(random() * n);
  const [a, b] = [at(), at()].sort((x, y) => x - y) as [number, number];
  const out = Buffer.from(bytes);
  switch (at(6)) {
    case 0:
      return out.subarray(0, a);
    case 1:
      for (let i = 0; i < 1 + at(40); i++) out[at()] = at(256);
      return out;
    case 2:
      return out.fill(0, a, Math.min(b, a + 4096));
    case 3:
      return Buffer.concat([out.subarray(0, b), out.subarray(a)]);
    case 4:
      return Buffer.concat([out.subarray(0, a), out.subarray(b)]);
    default:
      for (let i = 0; i < 4; i++) out[at(Math.min(256, out.length))] = at(256);
      return out;
  }
}

/** A number of either sign between 10^-4 and 10^12, evenly over its logarithm. */
const anyNumber = (random: () => number): string =>
  `${random() < 0.3 ? '-' : ''}${(10 ** (random() * 16 - 4)).toPrecision(3)}`;
/** Writes a whole file with a strange time, size or pixel shape; answers its name. */
async function strangeFile(i: number, random: () => number): Promise<string> {
  const of = <T>(...all: T[]): T => all[Math.floor(random() * all.length)]!;
  const at = Math.floor(random() * 6),
    n = anyNumber(random),
    side = () => String(Math.ceil(10 ** (random() * 4.3)));
  const filter = of(
    `setpts='if(gte(N,${at}),PTS+(${n})/TB,PTS)'`,
    `setpts='N*(${n})/TB'`,
    `setpts='if(eq(N,${at}),(${n})/TB,PTS)'`,
    `setpts='pow(N,9)/TB'`,
    `setpts='(6-N)/TB'`,
    `settb=1/${side()},setpts='N*${side()}'`,
    `scale=${side()}:2`,
    `scale=2:${side()}`,
    `setsar=${side()}/${side()}`,
  );
  const name = `${i}-${of('a.mp4', 'b.mov', 'c.mkv', 'd.avi', 'e.ts', 'f.nut', 'g.gif')}`;
  const codec = name.endsWith('gif') ? [] : ['-c:v', of('mpeg4', 'libx264', 'ffv1', 'mjpeg')];
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=32x16:r=25', '-frames:v', String(of(1, 2, 6, 6, 6))],
    ...['-vf', filter, '-fps_mode', 'passthrough', '-strict', '-2'],
    ...[...codec, '-pix_fmt', 'yuv420p', join(tmp, name)],
  ]);
  return name;
}

const tally = { refused: 0, accepted: 0, warned: 0, crashed: 0, hung: 0, 'left over': 0 };
async function one(i: number, files: readonly [string, Buffer][]): Promise<void> {
  const random = randomFrom(seed * 1_000_003 + i);
  let name: string;
  if (strange) {
    // What the encoder or the container refuses is drawn again.
    for (;;) {
      const made = await strangeFile(i, random).catch(() => null);
      if (made && (await readFile(join(tmp, made))).length > 0) {
        name = made;
        break;
      }
      for (const left of await readdir(tmp))
        if (left.startsWith(`${i}-`)) await rm(join(tmp, left));
    }
    if (keptIn) await copyFile(join(tmp, name), join(keptIn, name));
  } else {
    const [kind, bytes] = files[Math.floor(random() * files.length)]!;
    name = `${i}-${kind}`;
    await writeFile(join(tmp, name), damaged(bytes, random));
  }
  const file = join(tmp, name);
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), LONGEST);
  try {
    const footage = await probe(file, { signal: stop.signal });
    if (footage.warnings) tally.warned++;
    else tally.accepted++;
  } catch (e) {
    if (stop.signal.aborted) tally.hung++;
    else if (e instanceof NotFootage) tally.refused++;
    else tally.crashed++;
    if (!(e instanceof NotFootage))
      console.error(`seed ${seed}, file ${i} (${name}): ${(e as Error).message}`);
  } finally {
    clearTimeout(timer);
    await rm(file, { force: true });
  }
}

const before = new Set(await readdir(tmpdir()));
try {
  const files = strange ? [] : await originals();
  if (keptIn) await mkdir(keptIn, { recursive: true });
  let next = 0;
  const began = Date.now();
  await Promise.all(
    Array.from({ length: availableParallelism() }, async () => {
      for (let i = next++; i < count; i = next++) {
        await one(i, files);
        if (i % 500 === 499)
          console.log(`${i + 1} of ${count}, ${Math.round((Date.now() - began) / 1000)} s`);
      }
    }),
  );
  const left = [...(await readdir(tmpdir()))].filter(
    (n) => n.startsWith('wabisabi-') && !before.has(n),
  );
  tally['left over'] = left.length + (await readdir(tmp)).length - files.length;
} finally {
  await rm(tmp, { recursive: true, force: true });
}
console.log(
  Object.entries(tally)
    .map(([what, n]) => `${what} ${n}`)
    .join(', '),
);
process.exitCode = tally.crashed + tally.hung + tally['left over'] > 0 ? 1 : 0;
