/** The sound of a cut: its sounds and those of its places, mixed to the sample. */
import { open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { inArray } from 'drizzle-orm';
import {
  alongRetime,
  allPlaces,
  type Channels,
  type Cut,
  type Heard,
  inOutOf,
  interleaved,
  lengthOfCut,
  mixed,
  type Mixed,
  type Place,
  retimedSound,
  samplesOf,
  SOUND_RATE,
  soundMapOf,
  standing,
  underLook,
  waveHead,
} from '../../core';
import { inData } from '../config/settings';
import { db, tables } from '../database';
import type { CutSnapshot } from '../database/columns';
import { makeSamples, samplesAt, type SampleFile } from '../media/sound-reader';
import { SAMPLES_FILE } from '../media/sound-file';
import { input } from '../media/run';
import { storedPlace } from '../media/store';
import { originalOf } from '../footage/original';
import { inSound } from '../sounds/sounds';
import type { OpenClip } from './open';

/** Samples mixed at a time where a file is written. */
const BLOCK = 1 << 16;
/** Samples of a source read beyond those shown: what the widest filter of a retime reaches. */
const BEYOND = 1024;

/** A sound with the way to its samples. */
interface Readable extends Heard {
  readonly read: (from: number, count: number) => Promise<Channels>;
}

/** The mix of a cut. */
export interface CutMix {
  /** Its length. */
  readonly samples: number;
  /** Whether anything is heard in it. */
  readonly any: boolean;
  readonly block: (first: number, count: number) => Promise<Mixed>;
}

/** Opens the mix of a cut. Sounds that have gone are silent. */
export async function openMix(cut: Cut<OpenClip>, { sounds }: CutSnapshot): Promise<CutMix> {
  const heard = [...(await soundsIn(cut, sounds)), ...(await placesIn(cut))];
  return {
    samples: samplesOf(lengthOfCut(cut.document, cut.rate), cut.rate),
    any: heard.length > 0,
    block: (first, count) => mixed(heard, first, count, (s, from, n) => s.read(from, n)),
  };
}

async function soundsIn(
  { document }: Cut,
  hashes: CutSnapshot['sounds'],
): Promise<readonly Readable[]> {
  const wanted = [...new Set(Object.values(hashes))];
  const rows =
    wanted.length > 0
      ? await db().query.soundFiles.findMany({ where: inArray(tables.soundFiles.hash, wanted) })
      : [];
  const channels = new Map(rows.map((r) => [r.hash, r.facts.channels]));
  const made: Readable[] = [];
  for (const sound of document.sounds) {
    const hash = hashes[sound.sound],
      count = hash === undefined ? undefined : channels.get(hash);
    if (hash === undefined || count === undefined || sound.mute) continue;
    const file: SampleFile = { file: inSound(hash, 'samples.f32'), channels: count };
    await makeSamples(input(inSound(hash, SAMPLES_FILE)), file);
    made.push({ ...sound, read: (from, n) => samplesAt(file, sound.from + from, n) });
  }
  return made;
}

async function placesIn(cut: Cut<OpenClip>): Promise<readonly Readable[]> {
  const made: Readable[] = [];
  for (const place of allPlaces(cut.document)) {
    const clip = cut.clips[place.clip];
    const own = place.sound && clip && (await placeIn(cut, place, clip));
    if (own) made.push(own);
  }
  return made;
}

/** The sound of a place's own footage, along its retime; undefined if it has none. */
async function placeIn(cut: Cut, place: Place, clip: OpenClip): Promise<Readable | undefined> {
  const { sound } = clip.facts,
    original = await originalOf(clip.hash);
  if (!sound || !original) return undefined;
  const file: SampleFile = {
    file: inData(join('heard', `${clip.hash}.f32`)),
    channels: sound.channels ?? 1,
  };
  await makeSamples((await storedPlace(original.file, original.facts)).open, file);
  const at = samplesOf(place.at, cut.rate);
  const heard: Heard = {
    at,
    samples: samplesOf(place.at + place.frames, cut.rate) - at,
    level: place.sound!.level,
    comes: samplesOf(place.comes ?? 0, cut.rate),
    goes: samplesOf(place.goes ?? 0, cut.rate),
  };
  const shown = standing(place, clip, cut.rate).clip;
  const map = soundMapOf(underLook(shown, shown.look));
  if (!map) {
    const begins = samplesOf(inOutOf(shown).in, clip.rate);
    return { ...heard, read: (from, n) => samplesAt(file, begins + from, n) };
  }
  const along = alongRetime(map, clip.rate);
  return {
    ...heard,
    async read(from, n) {
      const ends = [along(from), along(from + n)];
      const first = Math.max(0, Math.floor(Math.min(...ends)) - BEYOND),
        count = Math.ceil(Math.max(...ends)) + BEYOND - first;
      const source = await samplesAt(file, first, Math.max(1, count));
      return retimedSound(source, (s) => along(s) - first, from, n);
    },
  };
}

/** Writes a stretch of a mix as a wave file in float, at `SOUND_RATE`. */
export async function writeMix(mix: CutMix, count: number, to: string): Promise<void> {
  const file = await open(to, 'w');
  try {
    await file.write(waveHead(2, count, SOUND_RATE));
    for (let at = 0; at < count; at += BLOCK) {
      const block = await mix.block(at, Math.min(BLOCK, count - at));
      await file.write(new Uint8Array(interleaved(block).buffer));
    }
  } catch (e) {
    await rm(to, { force: true });
    throw e;
  } finally {
    await file.close();
  }
}
