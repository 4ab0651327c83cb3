/** Files whose tags say little or the wrong thing: read right, or refused in words. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { frameToLight, toCodes, wholeRgb } from '../../core';
import { Engine } from '../../core/engine';
import { made, scratch, sweep } from '../testing/awkward';
import { cutsOf } from './cuts';
import { frameOf } from './decode';
import { NotFootage } from './footage';
import { leave, placeOf } from './place';
import { probe } from './probe';
import { run } from './run';
import { positionsOf } from './sequence';
import { linkedIn } from './vector';

const folder = scratch();
afterAll(() => sweep(folder));
const at = (name: string): string => join(folder, name);
const engine = new Engine({ limit: 1 << 28, helpers: 0 });

/** Code values 0…255 of a plane of a file's first frame, as we read it. */
async function reds(file: string, plane = 0): Promise<Float32Array> {
  const place = await placeOf(file);
  const footage = await probe(file, { place });
  const light = frameToLight(await frameOf(place, footage, 0), 'bt709');
  const image = engine.compute(wholeRgb(toCodes(light, 'bt709'), 8));
  const found = engine.memory.plane(image, plane).slice();
  await leave(place);
  return found;
}

describe('interlaced footage whose stream does not say so', () => {
  it.each([
    ['DV of 625 lines', 'pal.dv', '720x576', '25', 'yuv420p', [2, 2]],
    ['DV of 525 lines', 'ntsc.dv', '720x480', '30000/1001', 'yuv411p', [4, 1]],
  ] as const)('is read as two fields: %s', async (_, name, size, rate, pixels, chroma) => {
    const file = await made(folder, name, ['-pix_fmt', pixels], { size, rate, seconds: 0.3 });
    const { format } = await probe(file);
    expect(format.fields).toBe('bottom');
    expect(format.chroma).toEqual(chroma);
  });
});

it('reads chroma that four pixels share where they are: an edge of colour stays in its column', async () => {
  // Red on the left, cyan of the same luma on the right of column 32; chroma lies on every fourth.
  const file = await made(folder, 'edge.mkv', [
    ...['-vf', "scale=64:16,geq=lum=110:cb=128:cr='if(lt(X,32),200,60)',format=yuv444p"],
    ...['-frames:v', '1', '-c:v', 'ffv1'],
  ]);
  const raw = at('edge.yuv');
  await run('ffmpeg', ['-i', file, '-pix_fmt', 'yuv444p', '-f', 'rawvideo', raw]);
  const whole = readFileSync(raw);
  const [w, h] = [64, 16];
  const plane = (p: number) => whole.subarray(p * w * h, (p + 1) * w * h);
  const every = (p: number) => plane(p).filter((_, i) => i % 4 === 0);
  writeFileSync(at('edge411.yuv'), Buffer.concat([plane(0), every(1), every(2)]));
  const shared = at('edge411.mkv');
  await run('ffmpeg', [
    ...['-f', 'rawvideo', '-pix_fmt', 'yuv411p', '-s', `${w}x${h}`, '-i', at('edge411.yuv')],
    ...['-chroma_sample_location', 'left', '-c:v', 'ffv1', shared],
  ]);
  const row = (await reds(shared)).subarray(8 * w, 9 * w);
  const middle = (row[20]! + row[44]!) / 2;
  // Halfway between the chroma samples of columns 28 (red) and 32 (cyan).
  const crossing = row.findIndex((v) => v < middle);
  expect(crossing).toBeGreaterThanOrEqual(30);
  expect(crossing).toBeLessThanOrEqual(31);
});

describe('tags', () => {
  it('of a matrix that is not read end in words that say what to convert to', async () => {
    for (const [space, words] of [
      ['bt2020c', /BT\.2020 with non-constant luminance/],
      ['ycgco', /"ycgco", which is not read/],
    ] as const) {
      const file = await made(folder, `${space}.mkv`, [
        ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-colorspace', space],
      ]);
      await expect(probe(file)).rejects.toThrow(words);
    }
  });

  it('that are missing are guessed from the lines before the picture is turned', async () => {
    // 1280×720 turned on its side is 1280 lines high; 720×480 turned is 720.
    for (const [size, guess] of [
      ['1280x720', 'bt709'],
      ['720x480', 'bt601-525'],
    ] as const) {
      const flat = await made(folder, `flat-${size}.mp4`, ['-c:v', 'libx264'], { size });
      const turned = at(`turned-${size}.mp4`);
      await run('ffmpeg', ['-i', flat, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', turned]);
      const footage = await probe(turned);
      expect(footage.format.width).toBeLessThan(footage.format.height);
      expect(footage.guess).toBe(guess);
    }
  });

  it('that are missing make red, green and blue sRGB, not a standard of Y′CbCr', async () => {
    const file = await made(folder, 'rgb.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'gbrp']);
    expect((await probe(file)).guess).toBe('srgb');
  });
});

/** A chromaticities attribute of an OpenEXR header. */
function withPrimaries(file: string, values: readonly number[], to: string): void {
  const bytes = readFileSync(file);
  const value = Buffer.alloc(4 * values.length);
  values.forEach((v, i) => value.writeFloatLE(v, 4 * i));
  const size = Buffer.alloc(4);
  size.writeInt32LE(value.length);
  const attribute = Buffer.concat([Buffer.from('chromaticities\0chromaticities\0'), size, value]);
  // Everything behind the header moves by its length: so do the offsets of its table.
  const end = headerEnd(bytes);
  const first = Number(bytes.readBigUInt64LE(end));
  for (let at = end; at < first; at += 8)
    bytes.writeBigUInt64LE(bytes.readBigUInt64LE(at) + BigInt(attribute.length), at);
  writeFileSync(to, Buffer.concat([bytes.subarray(0, 8), attribute, bytes.subarray(8)]));
}
function headerEnd(bytes: Buffer): number {
  let at = 8;
  while (bytes[at] !== 0) {
    at = bytes.indexOf(0, bytes.indexOf(0, at) + 1) + 1;
    at += 4 + bytes.readInt32LE(at);
  }
  return at + 1;
}

describe('OpenEXR', () => {
  /** A grey of a light value above 1, as 32-bit samples. */
  const exr = async (name: string, samples: readonly number[]): Promise<string> => {
    const raw = at(`${name}.raw`);
    const [w, h] = [16, 8];
    const plane = Float32Array.from({ length: w * h }, (_, i) => samples[i % samples.length]!);
    writeFileSync(raw, Buffer.concat([plane, plane, plane].map((p) => Buffer.from(p.buffer))));
    const file = at(`${name}.exr`);
    await run('ffmpeg', [
      ...['-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-s', `${w}x${h}`, '-i', raw],
      ...['-c:v', 'exr', '-format', 'float', '-frames:v', '1', file],
    ]);
    return file;
  };

  it('is linear and unbounded: light from 0 to 4 comes in as it is', async () => {
    const file = await exr('bright', [0, 0.25, 1, 4]);
    const place = await placeOf(file);
    const footage = await probe(file, { place });
    expect(footage).toMatchObject({ guess: 'linear', pixelFormat: 'gbrpf32le' });
    const image = engine.compute(frameToLight(await frameOf(place, footage, 0), footage.guess));
    expect([...engine.memory.plane(image, 1).slice(0, 4)]).toEqual([0, 0.25, 1, 4]);
  });

  it('names its primaries, and says where they are none that are known', async () => {
    const file = await exr('primaries', [0.5]);
    withPrimaries(file, [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767], at('ap1.exr'));
    expect(await probe(at('ap1.exr'))).toMatchObject({ guess: 'acescg' });
    withPrimaries(file, [0.68, 0.32, 0.265, 0.69, 0.15, 0.06, 0.314, 0.351], at('other.exr'));
    const other = await probe(at('other.exr'));
    expect(other.guess).toBe('linear');
    expect(other.warnings).toEqual([expect.stringMatching(/0\.6800 0\.3200.*read as BT\.709/)]);
  });

  it('with infinities and what is no number says how many, and lets none of them in', async () => {
    const file = await exr('broken', [0.5, Infinity, NaN, 1]);
    const place = await placeOf(file);
    const footage = await probe(file, { place });
    expect(footage.warnings).toEqual([expect.stringMatching(/^192 of its samples/)]);
    const image = engine.compute(frameToLight(await frameOf(place, footage, 0), footage.guess));
    expect([...engine.memory.plane(image, 0).slice(0, 4)]).toEqual([0.5, 65504, 0, 1]);
  });

  it('that is cut short is refused, and says how much of it is there', async () => {
    const file = await exr('whole', [0.1, 0.9]);
    const bytes = readFileSync(file);
    writeFileSync(at('short.exr'), bytes.subarray(0, Math.floor(bytes.length / 2)));
    await expect(probe(at('short.exr'))).rejects.toThrow(/cut short \(\d of 8 parts/);
  });
});

describe('damage that shows nowhere else', () => {
  it('is said of a GIF without its end', async () => {
    const file = await made(folder, 'whole.gif', [], { seconds: 0.4 });
    expect((await probe(file)).warnings).toBeUndefined();
    const bytes = readFileSync(file);
    writeFileSync(at('short.gif'), bytes.subarray(0, Math.floor(bytes.length * 0.6)));
    const short = await probe(at('short.gif')).catch((e: Error) => e);
    if (short instanceof Error) expect(short).toBeInstanceOf(NotFootage);
    else expect(short.warnings).toEqual([expect.stringMatching(/its end is missing/)]);
  });

  it('is said to be out of sight in FFV1 without checksums', async () => {
    const bare = await made(folder, 'bare.mkv', ['-c:v', 'ffv1', '-level', '3', '-slicecrc', '0']);
    expect((await probe(bare)).warnings).toEqual([expect.stringMatching(/carry no checksums/)]);
    const safe = await made(folder, 'safe.mkv', ['-c:v', 'ffv1', '-level', '3', '-slicecrc', '1']);
    expect((await probe(safe)).warnings).toBeUndefined();
  });
});

describe('vector pictures', () => {
  it('with a picture that is not in them are refused, and named', () => {
    const svg = (inner: string) =>
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${inner}</svg>`;
    expect(linkedIn(svg('<image xlink:href="shore.png"/>'))).toBe('shore.png');
    expect(linkedIn(svg('<g><image href="file:///etc/a.png"/></g>'))).toBe('file:///etc/a.png');
    expect(
      linkedIn(svg('<image href="data:image/png;base64,AA=="/><use href="#a"/>')),
    ).toBeUndefined();
  });
});

describe('frames hours apart', () => {
  it('are refused in words instead of filling a day with held frames', async () => {
    const file = await made(folder, 'hours.mkv', [
      ...['-vf', 'setpts=N*7200/TB', '-fps_mode', 'passthrough'],
      ...['-c:v', 'ffv1', '-frames:v', '6'],
    ]);
    await expect(probe(file)).rejects.toThrow(/a frame lies 120 minutes after the one before/);
  });
});

describe('folders of pictures', () => {
  /** Pictures with these numbers, each of a lightness of its own; some of another size. */
  const pictures = async (name: string, numbers: readonly number[], odd?: number) => {
    const dir = at(name);
    rmSync(dir, { recursive: true, force: true });
    mkdirSync(dir);
    for (const n of numbers)
      await run('ffmpeg', [
        ...[
          '-f',
          'lavfi',
          '-i',
          `color=c=0x${(16 * n).toString(16).padStart(2, '0').repeat(3)}:s=${n === odd ? '16x32' : '32x16'}`,
        ],
        ...['-frames:v', '1', join(dir, `shot_${String(n).padStart(4, '0')}.png`)],
      ]);
    return dir;
  };
  const shades = async (dir: string, sequence?: Parameters<typeof placeOf>[1]) => {
    const place = await placeOf(dir, sequence);
    const footage = await probe(dir, { place });
    const found: number[] = [];
    for (let f = 0; f < footage.frames; f++)
      found.push((await frameOf(place, footage, f)).planes[0]![16 * 8 + 8]! as number);
    await leave(place);
    return { found, footage };
  };

  it('hold the picture before where some are missing, and say which', async () => {
    const dir = await pictures('gaps', [4, 5, 8, 9]);
    const { found, footage } = await shades(dir);
    expect(found).toEqual([64, 80, 80, 80, 128, 144]);
    expect(footage.warnings).toEqual([
      '2 pictures are missing (frames 2–3, counted from 0): the one before is held',
    ]);
  });

  it('are black there, or refused, where that is chosen, and then are other footage', async () => {
    const dir = await pictures('gaps', [4, 5, 8, 9]);
    const black = { sequence: { gaps: 'black', sizes: 'fit' } } as const;
    const { found, footage } = await shades(dir, black);
    expect(found).toEqual([64, 80, 0, 0, 128, 144]);
    expect(footage.hash).not.toBe((await shades(dir)).footage.hash);
    await expect(placeOf(dir, { sequence: { gaps: 'refuse', sizes: 'fit' } })).rejects.toThrow(
      /2 pictures are missing.*bring the whole folder/,
    );
  });

  it('fit pictures of another size with bars instead of stretching them, or refuse them', async () => {
    const dir = await pictures('sizes', [1, 2, 3], 2);
    const place = await placeOf(dir);
    const footage = await probe(dir, { place });
    expect([footage.format.width, footage.format.height]).toEqual([32, 16]);
    const [plane] = (await frameOf(place, footage, 1)).planes;
    expect(Math.abs(plane![8 * 32 + 16]! - 32)).toBeLessThanOrEqual(1);
    expect([plane![8 * 32 + 2], plane![8 * 32 + 30]]).toEqual([0, 0]);
    expect(footage.warnings).toEqual([
      '1 of 3 pictures are not 32×16 (frames 1, counted from 0): fitted with bars',
    ]);
    await leave(place);
    await expect(placeOf(dir, { sequence: { gaps: 'hold', sizes: 'refuse' } })).rejects.toThrow(
      /make them alike/,
    );
  });

  it('are looked at as well where the data lies in a folder of an awkward name', async () => {
    const dir = await pictures('sizes', [1, 2, 4], 2);
    const links = at("o'brien 50%d data/numbered");
    const place = await placeOf(dir, { links });
    expect(place.notes).toEqual([
      '1 of 3 pictures are not 32×16 (frames 1, counted from 0): fitted with bars',
      '1 pictures are missing (frames 2, counted from 0): the one before is held',
    ]);
    const footage = await probe(dir, { place });
    expect([footage.frames, footage.format.width]).toEqual([4, 32]);
    await leave(place);
  });

  it('count in steps of their own, and not at all where their names do not', () => {
    expect(positionsOf(['a_10.png', 'a_12.png', 'a_18.png'])).toEqual([0, 1, 4]);
    expect(positionsOf(['a.png', 'b.png'])).toBeUndefined();
    expect(positionsOf(['a1.png', 'b2.png'])).toBeUndefined();
    expect(positionsOf(['a1.png', 'a2.png', 'a20261201.png'])).toBeUndefined();
  });
});

it('finds the cuts of a file in frames at its steady rate, also where it holds some', async () => {
  const file = await made(folder, 'cut.mkv', [
    ...[
      '-vf',
      "geq=lum='if(lt(N,20),40+20*sin(X/3),200-40*sin(Y/2))':cb=128:cr=128,select='not(between(n,5,9))'",
    ],
    ...['-fps_mode', 'passthrough', '-c:v', 'ffv1', '-pix_fmt', 'yuv420p'],
  ]);
  const place = await placeOf(file);
  expect(await cutsOf(place, await probe(file, { place }))).toEqual([20]);
});
