/** Pins given on the command line, and what else a look must know of the footage. */
import { BEYOND, type ClipPins, needsStatistics, type EncodingId, type LookDocument, type PinValue, type WholeClip } from '../core';
import type { Engine } from '../core/engine';
import { Beside, type Other } from '../server/media/beside';
import type { Footage } from '../server/media/footage';
import { measure } from '../server/media/measure';
import { leave, type Place, placeOf, probe } from '../server/media/probe';
import { Usage, type Words } from './args';

function places(key: string, text: string): PinValue[] {
  const all = text.split(';').map((p) => p.split(',').map(Number));
  if (all.some((p) => p.length !== 2 || p.some((v) => !Number.isFinite(v))))
    throw new Usage(`--pin ${key} must be like 31.5,40 (per cent across and down), several parted by ;`);
  return all.map(([x, y]) => ({ x: x! / 100, y: y! / 100 }));
}

/** `path`, `path@frame` or `path@frame*speed`; `,hold` and the like after it say what is beyond its end. */
async function footage(key: string, text: string): Promise<[PinValue, Other]> {
  const m = /^(.+?)(?:@(-?\d+)(?:\*([\d.]+))?)?(?:,([a-z-]+))?$/.exec(text);
  const speed = Number(m?.[3] ?? 1);
  const beyond = BEYOND.find((b) => b === m?.[4]);
  if (!m || !(speed > 0) || (m[4] !== undefined && !beyond))
    throw new Usage(
      `--pin ${key} must be like clip.mp4, clip.mp4@12 (its start) clip.mp4@12*0.5 (and its speed), with ,${BEYOND.join(' or ,')} for what is beyond its end`,
    );
  const place = await placeOf(m[1]!);
  const facts = await probe(m[1]!, { place });
  return [
    { hash: facts.hash, start: Number(m[2] ?? 0), speed, ...(beyond && { beyond }) },
    { place, facts, leave: () => leave(place), clip: { encoding: facts.guess, fit: 'fill', balance: null } },
  ];
}

/** Points by the look's pins (`eyes=31.5,40;62,41` is two places, in per cent across and down), and other footage. */
export async function pinsFrom(w: Words, look: LookDocument): Promise<{ pins: ClipPins; beside: Beside }> {
  const pins: Record<string, PinValue[]> = {};
  const others: Record<string, Other> = {};
  for (const pair of w.flags.get('pin') ?? []) {
    const [key, text = ''] = pair.split(/=(.*)/s) as [string, string | undefined];
    const asked = look.pins?.find((p) => p.key === key);
    if (!asked) throw new Usage(`the look asks for no pin "${key}"; it asks for ${look.pins?.map((p) => p.key).join(', ') || 'none'}`);
    if (asked.kind === 'cue') throw new Usage(`the pin "${key}" is a cue: only points, mattes and footage change a picture`);
    if (asked.kind === 'point') pins[key] = places(key, text);
    else {
      const [value, other] = await footage(key, text);
      pins[key] = [value];
      others[key] = other;
    }
  }
  return { pins, beside: new Beside(look, pins, others) };
}

/** What the whole footage is like, where a look needs to know. */
export const wholeFor = async (look: LookDocument, engine: Engine, place: Place, facts: Footage, encoding: EncodingId): Promise<WholeClip | null> =>
  needsStatistics(look) ? await measure(engine, place, facts, encoding) : null;
