/** The mix of a cut from files of samples: its sounds, and the sound of its places along their retimes. */
import { open, rm } from 'node:fs/promises';
import {
  alongRetime,
  allPlaces,
  type Channels,
  type Cut,
  type CutClip,
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
import { samplesAt, type SampleFile } from './sound-reader';

/** Samples mixed at a time where a file is written. */
const BLOCK = 1 << 16;
/** Samples of a source read beyond those shown: what the widest filter of a retime reaches. */
const BEYOND = 1024;

/** A sound with the way to its samples. */
interface Readable extends Heard {
  readonly read: (from: number, count: number) => Promise<Channels>;
}
/** Where the samples of a cut's sounds are; undefined where there are none (any more). */
export interface MixSources<C extends CutClip> {
  /** By the id that the document names. */
  readonly sound: (id: string) => Promise<SampleFile | undefined>;
  readonly own: (clip: C) => Promise<SampleFile | undefined>;
}

/** The mix of a cut. */
export interface CutMix {
  /** Its length. */
  readonly samples: number;
  /** Whether anything is heard in it. */
  readonly any: boolean;
  readonly block: (first: number, count: number) => Promise<Mixed>;
}

/** The mix of a cut. What has gone, or is muted, is silent. */
export async function cutMix<C extends CutClip>(
  cut: Cut<C>,
  sources: MixSources<C>,
): Promise<CutMix> {
  const heard: Readable[] = [];
  for (const sound of cut.document.sounds) {
    const file = sound.mute ? undefined : await sources.sound(sound.sound);
    if (file) heard.push({ ...sound, read: (from, n) => samplesAt(file, sound.from + from, n) });
  }
  for (const place of allPlaces(cut.document)) {
    const clip = cut.clips[place.clip];
    const file = place.sound && clip && (await sources.own(clip));
    if (file) heard.push(placeHeard(cut, place, clip, file));
  }
  return {
    samples: samplesOf(lengthOfCut(cut.document, cut.rate), cut.rate),
    any: heard.length > 0,
    block: (first, count) => mixed(heard, first, count, (s, from, n) => s.read(from, n)),
  };
}

/** The sound of a place's own footage, along its retime. */
function placeHeard<C extends CutClip>(
  cut: Cut<C>,
  place: Place,
  clip: C,
  file: SampleFile,
): Readable {
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

/** Writes a stretch of a mix from a sample on as a wave file in float, at `SOUND_RATE`. */
export async function writeMix(
  mix: CutMix,
  first: number,
  count: number,
  to: string,
): Promise<void> {
  const file = await open(to, 'w');
  try {
    await file.write(waveHead(2, count, SOUND_RATE));
    for (let at = 0; at < count; at += BLOCK) {
      const block = await mix.block(first + at, Math.min(BLOCK, count - at));
      await file.write(new Uint8Array(interleaved(block).buffer));
    }
  } catch (e) {
    await rm(to, { force: true });
    throw e;
  } finally {
    await file.close();
  }
}
