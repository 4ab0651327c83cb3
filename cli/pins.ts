/** Pins given on the command line, and other facts that a look needs about the footage. */
import {
  asksPlace,
  type InOut,
  BEYOND,
  type ClipPins,
  type EncodingId,
  FITS,
  type FootagePin,
  type LookDocument,
  needsStatistics,
  type PinValue,
  type PlaceKindId,
  placesFor,
  type PlatePoints,
  type Reframe,
  type Track,
  type WholeClip,
} from '../core';
import { Engine } from '../core/engine';
import type { Other } from '../server/media/footage-reader';
import type { Footage } from '../server/media/footage';
import { measure } from '../server/media/measure';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { Usage, type Words } from './args';
import { placeFrom, placeWords } from './places';
import { trackFile, trackIn } from './trace';

function places(key: string, text: string, kinds: readonly PlaceKindId[]): PinValue[] {
  const all = text.split(';').map((one) => {
    for (const kind of kinds) {
      const place = placeFrom(kind, one);
      if (place) return place;
    }
    return undefined;
  });
  if (all.every((p) => p !== undefined)) return all;
  throw new Usage(
    `--pin ${key} must be ${kinds.map(placeWords).join(', or ')}; several are parted by ;`,
  );
}

function cues(key: string, text: string): PinValue[] {
  const all = text.split(';').map(Number);
  if (all.some((f) => !Number.isInteger(f) || f < 0))
    throw new Usage(`--pin ${key} must be like 12 (a frame, counted from 0), several parted by ;`);
  return all.map((frame) => ({ frame }));
}

type Said = Pick<FootagePin, 'beyond' | 'fit' | 'at' | 'reframe'>;
/**
 * A reframe from `lies=40:60` or `lies=40:60:120`, in per cent: the place in the middle of the
 * frame, and the magnification.
 */
function reframeSaid(word: string): Reframe | undefined {
  const [, x, y, closer] = /^lies=(-?\d+):(-?\d+)(?::(\d+))?$/.exec(word) ?? [];
  const [across, down, larger] = [Number(x) / 100, Number(y) / 100, Number(closer ?? 100)];
  const inside = [across, down].every((v) => v >= -1 && v <= 2) && larger >= 10 && larger <= 1000;
  return inside ? { x: across, y: down, closer: larger } : undefined;
}

/** Settings that may follow footage, each after a comma. */
function said(key: string, words: readonly string[]): Said {
  let found: Said = {};
  for (const word of words) {
    const beyond = BEYOND.find((b) => b === word),
      fit = FITS.find((f) => f === word),
      reframe = reframeSaid(word),
      cue = /^at=([a-z0-9-]+)$/.exec(word)?.[1];
    if (!beyond && !fit && !cue && !reframe)
      throw new Usage(
        `--pin ${key}: "${word}" is none of ${BEYOND.join(', ')} (what is beyond its end), ${FITS.join(', ')} (its size), lies=40:60:120 (its place that lies in the middle, and how much larger, in per cent), at=end or at=<cue> (what its start is counted from)`,
      );
    found = {
      ...found,
      ...(beyond && { beyond }),
      ...(fit && { fit }),
      ...(reframe && { reframe }),
      ...(cue && { at: cue === 'end' ? cue : { cue } }),
    };
  }
  return found;
}

/** Footage from `path`, `path@frame` or `path@frame*speed`, with settings after commas. */
async function footage(
  key: string,
  text: string,
  plate: boolean,
): Promise<[PinValue, Other, string]> {
  const m = /^(.+?)(?:@(-?\d+)(?:\*([\d.]+))?)?((?:,[a-z0-9=:-]+)*)$/.exec(text);
  const speed = Number(m?.[3] ?? 1);
  if (!m || !(speed > 0))
    throw new Usage(
      `--pin ${key} must be like clip.mp4, clip.mp4@12 (its start) or clip.mp4@12*0.5 (and its speed), with words after commas`,
    );
  const more = said(key, m[4]!.split(',').slice(1));
  const place = await placeOf(m[1]!);
  const facts = await probe(m[1]!, { place });
  return [
    { hash: facts.hash, start: Number(m[2] ?? 0), speed, ...more },
    {
      place,
      facts,
      leave: () => leave(place),
      clip: {
        encoding: facts.guess,
        fit: 'fill',
        balance: null,
        ...(plate && { plate: await pointsOf(place, facts) }),
      },
    },
    m[1]!,
  ];
}

const MEASURING_MEMORY = 256 * 2 ** 20;
async function pointsOf(place: Place, facts: Footage): Promise<PlatePoints | undefined> {
  const engine = new Engine({ limit: MEASURING_MEMORY, helpers: 0 });
  try {
    return (await measure(engine, place, facts, facts.guess)).plate;
  } finally {
    engine.close();
  }
}

/**
 * Values of the look's pins: places (`eyes=31.5,40;62,41` is two points, in per cent across and
 * down; lines, ovals and outlines likewise) or tracks (`sun=track.json`), cues, and other footage,
 * with the files it is read from. Throws `Usage`.
 */
export async function pinsFrom(
  w: Words,
  look: LookDocument,
): Promise<{
  pins: ClipPins;
  others: Record<string, Other>;
  tracks: Record<string, Track>;
  files: string[];
}> {
  const tracks: Record<string, Track> = {};
  const pins: Record<string, PinValue[]> = {},
    files: string[] = [];
  const others: Record<string, Other> = {};
  const given = (['pin', 'plate'] as const).flatMap((word) =>
    (w.flags.get(word) ?? []).map((pair) => ({ word, pair })),
  );
  for (const { word, pair } of given) {
    const [key, text = ''] = pair.split(/=(.*)/s) as [string, string | undefined];
    const asked = look.pins?.find((p) => p.key === key);
    if (!asked)
      throw new Usage(
        `the look asks for no pin "${key}"; it asks for ${look.pins?.map((p) => p.key).join(', ') || 'none'}`,
      );
    if (word === 'plate' && asked.kind !== 'footage')
      throw new Usage(`the pin "${key}" asks for no footage: give it by --pin`);
    const kinds = placesFor(asked.kind);
    const as = kinds.length > 0 ? trackFile(text) : undefined;
    if (as) {
      files.push(text);
      tracks[text] = await trackIn(key, text, as);
      pins[key] = [{ trace: text }];
    } else if (asksPlace(asked.kind)) pins[key] = places(key, text, kinds);
    else if (asked.kind === 'matte' && kinds.some((k) => placeFrom(k, text)))
      pins[key] = places(key, text, kinds);
    else if (asked.kind === 'cue') pins[key] = cues(key, text);
    else {
      const [value, other, file] = await footage(key, text, word === 'plate');
      files.push(file);
      pins[key] = [value];
      others[key] = other;
    }
  }
  return { pins, others, tracks, files };
}

/** Statistics of the whole footage, if the look needs them. */
export const wholeFor = async (
  look: LookDocument,
  engine: Engine,
  place: Place,
  facts: Footage,
  encoding: EncodingId,
  of?: InOut,
): Promise<WholeClip | null> =>
  needsStatistics(look) ? await measure(engine, place, facts, encoding, of) : null;
