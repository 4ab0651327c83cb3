import { readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { afterAll, describe, expect, it } from 'vitest';
import { edit, emptyLook, frameBytes, type RawFrame, stepOf } from '../../core';
import { made, scratch, sweep } from '../testing/awkward';
import { readAs } from './footage';
import { FootageReader } from './footage-reader';
import { placeOf } from './place';
import { probe } from './probe';
import { SpillFile } from './spill';

const folder = scratch();
afterAll(() => sweep(folder));

describe('bytes that are put aside', () => {
  it('come back as they were, and leave no file behind by name', () => {
    const parts = [new Uint8Array([1, 2, 3]), new Uint16Array([40000, 7])];
    const before = readdirSync(folder);
    const file = new SpillFile(folder),
      region = file.write(parts);
    expect(readdirSync(folder)).toEqual(before);
    const into = new Uint8Array(7);
    file.read(region, into);
    expect([...into]).toEqual([1, 2, 3, ...new Uint8Array(parts[1]!.buffer)]);
    file.close();
    expect(() => file.read(region, into)).toThrow(/closed/);
    expect(readdirSync(tmpdir()).filter((n) => n.startsWith('.wabisabi-'))).toEqual([]);
  });

  it('take no more room than the most that lay there at once', () => {
    const file = new SpillFile(folder);
    const bytes = (n: number): Uint8Array => new Uint8Array(100).fill(n);
    const [a, b] = [file.write([bytes(1)]), file.write([bytes(2)])];
    file.free(a);
    const c = file.write([bytes(3)]);
    expect(file.size).toBe(200);
    const into = new Uint8Array(100);
    for (const [region, n] of [
      [b, 2],
      [c, 3],
    ] as const) {
      file.read(region, into);
      expect(into[99]).toBe(n);
    }
    // A block of another length has a place of its own.
    file.free(b);
    file.write([new Uint8Array(50)]);
    expect(file.size).toBe(250);
    file.close();
  });
});

describe('frames that a trail looks back at', () => {
  it.each([
    ['8 bits', 'mp4', ['-c:v', 'libx264', '-g', '9', '-pix_fmt', 'yuv420p']],
    ['10 bits', 'mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv422p10le']],
    ['red, green and blue with coverage', 'mkv', ['-c:v', 'ffv1', '-pix_fmt', 'gbrap']],
  ])('are the same where most of them lie in files: %s', async (_, ending, output) => {
    const file = await made(folder, `clip-${output.at(-1)}.${ending}`, output);
    const place = await placeOf(file),
      facts = readAs(await probe(file), null);
    const trail = {
      ...edit.newStep(stepOf('trail')!, []),
      parameters: { count: { value: 12 }, spacing: { value: 2 } },
    };
    const look = edit.addLayer(emptyLook('Trail'), edit.newLayer('Top', 'clip', [], [trail]));
    const clip = { content: facts.hash, frames: facts.frames, rate: facts.rate, pins: {} };
    const roomy = new FootageReader(look, place, facts, clip, {}),
      tight = new FootageReader(
        look,
        place,
        facts,
        clip,
        {},
        {},
        undefined,
        3 * frameBytes(facts.format),
      );
    const samples = ({ planes }: RawFrame): number[][] => planes.map((p) => Array.from(p));
    // Forwards and backwards.
    for (const frame of [24, 25, 26, 40, 30]) {
      const [a, b] = [await roomy.at(frame), await tight.at(frame)];
      expect([...b.keys()]).toEqual([...a.keys()]);
      for (const [index, { own }] of b) expect(samples(own)).toEqual(samples(a.get(index)!.own));
      // The names are the same whether the frames have been decoded or not.
      const named = await tight.expected(frame);
      expect([...named!].map(([i, f]) => [i, f.own.key])).toEqual(
        [...a].map(([i, f]) => [i, f.own.key]),
      );
    }
    await roomy.close();
    await tight.close();
  });
});
