/**
 * The demo's clips under looks, as pictures: what the contact sheets and the looks' pages are made
 * of.
 */
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import {
  type ClipPins,
  type DialValues,
  type EncodingId,
  lengthOf,
  type LookDocument,
  needsStatistics,
  type PinValue,
  type PlaceValue,
  underLook,
} from '../core';
import { MOTION_METHOD } from '../core/trace';
import { SCENES } from '../demo/scenes';
import { type Footage } from '../server/media/footage';
import { FootageReader, type Other } from '../server/media/footage-reader';
import { measure } from '../server/media/measure';
import { partsIn } from '../server/media/parts';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { renderFrame, type startEngine } from '../server/render';

export interface Showing {
  readonly engine: ReturnType<typeof startEngine>['engine'];
  readonly width: number;
  readonly height: number;
}

/** The truth of a clip's subject, where the demo has one. */
const truthOf = (file: string): string =>
  file.replace('demo/footage/', 'demo/truth/').replace(/\.mp4$/, '.matte.mp4');

/**
 * Where the demo's one face is, as shares of its picture; on other clips points lie in the middle.
 */
const FACES: Readonly<
  Record<string, { readonly face: PlaceValue; readonly eyes: readonly PlaceValue[] }>
> = {
  'singer-close': {
    face: { x: 0.46, y: 0.5 },
    eyes: [
      { x: 0.385, y: 0.385 },
      { x: 0.515, y: 0.385 },
    ],
  },
};
const ANYWHERE = {
  face: { x: 0.5, y: 0.45 },
  eyes: [
    { x: 0.45, y: 0.4 },
    { x: 0.56, y: 0.4 },
  ],
};
/** What stands in for the footage of a pin. */
const PLATES: Readonly<Record<string, string>> = {
  paper: 'demo/plates/torn-paper.png',
  second: 'demo/footage/skyline.mp4',
};
/**
 * What a look asks for: cues at the third of the pictures shown (a second one a second later),
 * points in the middle, true mattes.
 */
async function pinsOf(
  look: LookDocument | null,
  file: string,
  first: number,
): Promise<{ pins: ClipPins; others: Record<string, Other> }> {
  const pins: Record<string, PinValue[]> = {},
    others: Record<string, Other> = {};
  let cues = 0;
  for (const { key, kind, many } of look?.pins ?? []) {
    if (kind === 'cue')
      pins[key] = many
        ? [0, 3, 6].map((f) => ({ frame: first + f }))
        : [{ frame: first + 2 + 25 * cues++ }];
    const { eyes, face } = FACES[basename(file, '.mp4')] ?? ANYWHERE;
    if (kind === 'point') pins[key] = many ? [...eyes] : [face];
    const plate = PLATES[key] ?? truthOf(file);
    if ((kind !== 'matte' && kind !== 'footage') || !existsSync(plate)) continue;
    const place = await placeOf(plate, {});
    const facts = await probe(plate, { place });
    pins[key] = [{ hash: facts.hash, start: 0, speed: 1, beyond: 'hold' }];
    others[key] = {
      place,
      facts,
      leave: () => leave(place),
      clip: { encoding: facts.guess, fit: kind === 'matte' ? 'fit' : 'fill', balance: null },
    };
  }
  return { pins, others };
}

/** As the demo's scenes are coded, where a file's tags do not say it. */
const encodingOf = (file: string, { guess }: Footage): EncodingId =>
  SCENES.find((s) => s.name === basename(file, '.mp4'))?.encoding ?? guess;

/** A frame as 8-bit RGB. */
export async function* shown(
  { engine, width, height }: Showing,
  file: string,
  look: LookDocument | null,
  dials: DialValues,
  first: number,
  count: number,
  pinned = first,
): AsyncGenerator<Buffer> {
  const place = await placeOf(file, {});
  try {
    const footage: Footage = await probe(file, { place });
    const { pins, others } = await pinsOf(look, file, pinned);
    const spec = {
      ...(look && { look }),
      dials,
      encoding: encodingOf(file, footage),
      outEncoding: 'srgb' as const,
      pixelAspect: footage.pixelAspect,
      fit: 'fit' as const,
      reframe: null,
      pins,
      rate: footage.rate,
      frames: footage.frames,
      balance: null,
      width,
      height,
      samples: 'gbrp' as const,
      content: footage.hash,
      whole:
        look && needsStatistics(look)
          ? await measure(engine, place, footage, encodingOf(file, footage))
          : null,
    };
    const reader = new FootageReader(
      look,
      place,
      footage,
      spec,
      others,
      dials,
      partsIn(join(tmpdir(), 'wabisabi', MOTION_METHOD, footage.hash), 'motion'),
    );
    try {
      const length = lengthOf(underLook(spec, look, dials));
      for (let frame = first; frame <= Math.min(length - 1, first + count - 1); frame++) {
        const planes = renderFrame(engine, await reader.at(frame), frame, spec);
        const n = width * height,
          rgb = Buffer.alloc(n * 3);
        for (let i = 0; i < n; i++) {
          rgb[i * 3] = planes[2 * n + i]!;
          rgb[i * 3 + 1] = planes[i]!;
          rgb[i * 3 + 2] = planes[n + i]!;
        }
        yield rgb;
      }
    } finally {
      // Also where only the first of the frames is taken.
      await reader.close();
    }
  } finally {
    await leave(place);
  }
}
export const small = (
  rgb: Buffer,
  to: number,
  { width, height }: Pick<Showing, 'width' | 'height'>,
): Promise<Buffer> =>
  sharp(rgb, { raw: { width, height, channels: 3 } })
    .resize({ width: to })
    .png()
    .toBuffer();
