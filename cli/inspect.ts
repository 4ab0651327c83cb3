/**
 * `inspect`: checks all frames of a piece of footage under a look for what a delivery must not
 * have.
 */
import {
  type Flag,
  FLAG_WORDS,
  flagMuch,
  inspectedFrame,
  Inspection,
  isEncoding,
  clipFrame,
  lengthOf,
  plan,
  underLook,
} from '../core';
import { FootageReader } from '../server/media/footage-reader';
import { cutsOf } from '../server/media/cuts';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { startEngine } from '../server/render';
import type { Option } from 'commander';
import { flag, needed, one, Usage, value, type Words } from './args';
import { LOOK_OPTIONS, lookFrom, PIN_OPTIONS } from './look';
import { pinsFrom, wholeFor } from './pins';

/** Options of `inspect`. */
export const INSPECT_OPTIONS: readonly Option[] = [
  ...LOOK_OPTIONS,
  ...PIN_OPTIONS,
  value('in', 'file', 'a video, a picture or a folder of pictures'),
  value('encoding', 'name', 'of its code values, where the guess is wrong'),
  flag('json', 'as JSON'),
];

/** The result of `inspect`. */
export interface Inspected {
  readonly frames: number;
  readonly rate: readonly [number, number];
  readonly flags: readonly Flag[];
}

/** Inspects the footage. Throws `Usage` and `NotFootage`. */
export async function inspect(w: Words): Promise<Inspected> {
  const { look, dials } = await lookFrom(w);
  const from = needed(w, 'in');
  const named = one(w, 'encoding');
  if (named !== undefined && !isEncoding(named)) throw new Usage(`there is no encoding "${named}"`);
  const place = await placeOf(from);
  const { engine, close } = startEngine();
  try {
    const footage = await probe(from, { place });
    const encoding = named ?? footage.guess;
    const { width, height } = footage.format;
    const { pins, others, tracks } = await pinsFrom(w, look);
    const whole = await wholeFor(look, engine, place, footage, encoding);
    const clip = {
      encoding,
      fit: 'fit',
      pixelAspect: footage.pixelAspect,
      balance: null,
      pins,
      content: footage.hash,
      rate: footage.rate,
      frames: footage.frames,
      cuts: await cutsOf(place, footage),
      whole,
    } as const;
    const inspection = new Inspection(0, footage.rate[0] / footage.rate[1]);
    const reader = new FootageReader(look, place, footage, { ...clip, tracks }, others, dials);
    const length = lengthOf(underLook(clip, look, dials));
    for (let frame = 0; frame < length; frame++) {
      const at = clipFrame(await reader.at(frame), clip, frame, { width, height, look, dials });
      const { bedrock, result } = plan(look, at, dials);
      inspection.add(inspectedFrame(engine, { bedrock, result, frame }, encoding, look.fills));
    }
    await reader.close();
    return { frames: length, rate: footage.rate, flags: inspection.flags() };
  } finally {
    await close();
    await leave(place);
  }
}

/** The result as text, one line per flag. */
export const inspectedInWords = ({ frames, flags }: Inspected): string =>
  flags.length === 0
    ? `${frames} frames, nothing to flag`
    : flags
        .map((f) => `${FLAG_WORDS[f.kind].padEnd(16)} frames ${f.first}-${f.last}, ${flagMuch(f)}`)
        .join('\n');
