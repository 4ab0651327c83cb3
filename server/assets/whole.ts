/** What is found in all of a clip's footage from the parts of an asset, as far as they are made. */
import { eq } from 'drizzle-orm';
import {
  cutsDecided,
  emptyLook,
  type LookDocument,
  type Speeds,
  type WholeAssetId,
  type WholeAssets,
} from '../../core';
import { db, tables } from '../database';
import { openOriginal } from '../footage/original';
import { FootageReader } from '../media/footage-reader';
import { storedParts } from '../media/parts';

const { clips } = tables;

/**
 * Speeds of the motion in a clip's footage (`speedOf`), of all of it or of what a pin's matte
 * covers; undefined if there is no such clip.
 */
export async function clipSpeeds(clipId: string, within?: string): Promise<Speeds | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: { columns: { index: false } } },
  });
  if (!clip) return undefined;
  const pin = within === undefined ? undefined : clip.decided.pins[within]?.[0];
  const matte = pin && 'hash' in pin ? await openOriginal(pin.hash) : undefined;
  const look: LookDocument = {
    ...emptyLook('speeds'),
    ...(matte && { pins: [{ key: within!, label: within!, kind: 'matte', many: false }] }),
  };
  const others = matte && {
    [within!]: {
      place: matte.place,
      facts: matte.facts,
      clip: PLAIN,
    },
  };
  const { facts, place } = await openOriginal(clip.hash);
  const read = {
    content: clip.hash,
    frames: facts.frames,
    cuts: cutsDecided(clip.footage.cuts, clip.decided.cutsSaid),
    rate: facts.rate,
    pins: clip.decided.pins,
  };
  const reader = new FootageReader(
    look,
    place,
    facts,
    read,
    others ?? {},
    {},
    storedParts(clip.hash, 'motion'),
  );
  try {
    return await reader.speeds();
  } finally {
    await reader.close();
  }
}
/** Only a matte's samples are read, not its position. */
const PLAIN = { encoding: 'srgb', fit: 'fill', balance: null } as const;

/** How each kind is found; undefined if there is no such clip. */
export const WHOLES: {
  readonly [K in WholeAssetId]: (
    clipId: string,
    within?: string,
  ) => Promise<WholeAssets[K] | undefined>;
} = { speeds: clipSpeeds };
