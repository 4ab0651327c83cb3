import { readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { afterAll, describe, expect, it } from 'vitest';
import { edit, emptyLook, frameBytes, type RawFrame, stepOf } from '../../core';
import { made, scratch, sweep } from '../testing/awkward';
import { readAs } from './footage';
import { FootageReader } from './footage-reader';
import { placeOf, probe } from './probe';
import { SpilledBytes } from './spill';

const folder = scratch();
afterAll(() => sweep(folder));

describe('bytes that are put aside', () => {
  it('come back as they were, and leave no file behind by name', () => {
    const parts = [new Uint8Array([1, 2, 3]), new Uint16Array([40000, 7])];
    const before = readdirSync(folder);
    const spilled = new SpilledBytes(parts, folder);
    expect(readdirSync(folder)).toEqual(before);
    const into = new Uint8Array(7);
    spilled.read(into);
    expect([...into]).toEqual([1, 2, 3, ...new Uint8Array(parts[1]!.buffer)]);
    spilled.close();
    expect(() => spilled.read(into)).toThrow();
    expect(readdirSync(tmpdir()).filter((n) => n.startsWith('.wabisabi-'))).toEqual([]);
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
    const trail = { ...edit.newStep(stepOf('trail')!, []), parameters: { count: { value: 12 }, spacing: { value: 2 } } };
    const look = edit.addLayer(emptyLook('Trail'), edit.newLayer('Top', 'clip', [], [trail]));
    const clip = { content: facts.hash, frames: facts.frames, rate: facts.rate, pins: {} };
    const roomy = new FootageReader(look, place, facts, clip, {}),
      tight = new FootageReader(look, place, facts, clip, {}, {}, undefined, 3 * frameBytes(facts.format));
    const samples = ({ planes }: RawFrame): number[][] => planes.map((p) => Array.from(p));
    // Onwards, and back.
    for (const frame of [24, 25, 26, 40, 30]) {
      const [a, b] = [await roomy.at(frame), await tight.at(frame)];
      expect([...b.keys()]).toEqual([...a.keys()]);
      for (const [index, { own }] of b) expect(samples(own)).toEqual(samples(a.get(index)!.own));
      // Named without being decoded as they are named when they are.
      const named = await tight.expected(frame);
      expect([...named!].map(([i, f]) => [i, f.own.key])).toEqual([...a].map(([i, f]) => [i, f.own.key]));
    }
    await roomy.close();
    await tight.close();
  });
});
