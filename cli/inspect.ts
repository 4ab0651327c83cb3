/** `inspect`: a look over all frames of a piece of footage, and what a delivery of it must not have. */
import { bedrockOf, type CodePlanes, type Flag, halve, inDomain, Inspection, isEncoding, plan, toCodes } from '../core';
import { frames } from '../server/media/decode';
import { leave, placeOf, probe } from '../server/media/probe';
import { startEngine } from '../server/render';
import { needed, one, Usage, type Words } from './args';
import { lookFrom } from './look';

export const INSPECT_WORDS = { values: ['look', 'step', 'dial', 'seed', 'in', 'encoding'], switches: ['json'] } as const;

export interface Inspected {
  readonly frames: number;
  readonly rate: readonly [number, number];
  readonly flags: readonly Flag[];
}

/** Flashes are looked for in cells of a picture of at most so many lines. */
const CELL_LINES = 64;

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
    const inspection = new Inspection(0);
    let frame = 0;
    for await (const raw of frames(place, footage, 0, footage.frames - 1)) {
      const bedrock = bedrockOf(raw, { encoding, fit: 'fit', pixelAspect: footage.pixelAspect, balance: null }, width, height);
      const { result } = plan(look, { bedrock, content: footage.hash, frame }, dials);
      let cells = inDomain(result, 'light');
      while (cells.height > CELL_LINES) cells = halve(cells);
      const [codes, light] = engine.computeAll([toCodes(result, encoding), cells]).map((image) => engine.planes(image));
      inspection.add(codes as CodePlanes, light!);
      frame++;
    }
    return { frames: footage.frames, rate: footage.rate, flags: inspection.flags(footage.rate[0] / footage.rate[1]) };
  } finally {
    await close();
    await leave(place);
  }
}

/** A line a flag. */
export const inspectedInWords = ({ frames, flags }: Inspected): string =>
  flags.length === 0
    ? `${frames} frames, nothing to flag`
    : flags
        .map(({ kind, first, last, worst }) => {
          const much = kind.endsWith('flashes') ? `up to ${worst} a second` : `up to ${(worst * 100).toFixed(1)} % of the picture`;
          return `${kind.padEnd(16)} frames ${first}-${last}, ${much}`;
        })
        .join('\n');
