import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { isPackage, type LookPackage, readPackage, writePackage } from '.';
import { SHIPPED } from '../look';

const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3);
const whole: LookPackage = {
  look: SHIPPED[0]!.look,
  version: 7,
  thumbnails: [
    { name: 'gulls', png },
    { name: 'kelp', png },
  ],
};
const repacked = (change: (files: Record<string, Uint8Array>) => Record<string, Uint8Array>) =>
  readPackage(zipSync(change(unzipSync(writePackage(whole)))));
const wrong = (read: ReturnType<typeof readPackage>): string =>
  'fault' in read ? read.fault.message : '';

describe('look packages', () => {
  it('read as they were written, to the last number', () => {
    expect(readPackage(writePackage(whole))).toEqual({ value: whole });
  });
  it('with one bit changed on the way are refused, whichever file it is in', () => {
    const stored = zipSync(unzipSync(writePackage(whole)), { level: 0 });
    const text = new TextDecoder('latin1').decode(stored);
    for (const inside of ['"seed"', '"package"']) {
      const bytes = stored.slice();
      bytes[text.indexOf(inside) + 1]! ^= 1;
      expect(wrong(readPackage(bytes))).toMatch(
        /damaged: (look|about)\.json is not what was packed/,
      );
    }
    expect(readPackage(stored)).toEqual({ value: whole });
  });
  it('are the same bytes whenever they are written', () => {
    expect(writePackage(whole)).toEqual(writePackage(structuredClone(whole)));
    expect(isPackage(writePackage(whole))).toBe(true);
  });
  it('carry the files of plates that the look asks for, and no others', () => {
    const look = SHIPPED.find((s) => s.look.pins?.some((p) => p.kind === 'footage'))!.look;
    const pin = look.pins!.find((p) => p.kind === 'footage')!.key;
    const plate = { pin, name: 'torn paper.png', bytes: png };
    const made = { ...whole, look, plates: [plate, { ...plate, name: 'other.mov' }] };
    expect(readPackage(writePackage(made))).toEqual({ value: made });
    // Entries that leave their folder, and entries no pin asks for, are ignored.
    const odd = writePackage({
      ...made,
      plates: [
        { ...plate, name: '../../evil.png' },
        { ...plate, pin: 'nobody' },
      ],
    });
    expect(readPackage(odd)).toEqual({
      value: { ...made, plates: [{ ...plate, name: '..-..-evil.png' }] },
    });
  });
  it('leave what is not known alone, and pictures that are none', () => {
    const read = repacked((files) => ({
      ...files,
      'notes.txt': strToU8('hello'),
      'thumbnails/9 x.png': strToU8('no picture'),
      '../evil.json': strToU8('{}'),
    }));
    expect(read).toEqual({ value: whole });
  });
  it('say what is wrong with them', () => {
    expect(wrong(readPackage(strToU8('{}')))).toMatch(/does not begin as a zip/);
    expect(wrong(readPackage(writePackage(whole).slice(0, 200)))).toMatch(/damaged/);
    expect(wrong(repacked(({ 'about.json': _, ...files }) => files))).toMatch(
      /about\.json is missing/,
    );
    expect(
      wrong(repacked((files) => ({ ...files, 'about.json': strToU8('{"package":2}') }))),
    ).toMatch(/another package than 1/);
    expect(wrong(repacked(({ 'look.json': _, ...files }) => files))).toMatch(
      /look\.json is missing/,
    );
    expect(
      wrong(repacked((files) => ({ ...files, 'look.json': strToU8('{"schema":1}') }))),
    ).toMatch(/cannot be used/);
  });
  it('never throw, whatever the bytes', () => {
    const bytes = writePackage(whole);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.integer({ min: 0, max: 255 })), {
          maxLength: 12,
        }),
        (changes) => {
          const damaged = bytes.slice();
          for (const [at, v] of changes) damaged[at] = v;
          const read = readPackage(damaged);
          return 'value' in read || read.fault.message.length > 0;
        },
      ),
      { numRuns: 150 },
    );
  });
});
