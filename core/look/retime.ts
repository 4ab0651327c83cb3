/**
 * How a look retimes clips: its places in time as frames of the clip, with dials and cues resolved.
 */
import { type ClipFacts, type ClipPins, type Lasting, timeOf } from '../clip';
import {
  FASTEST,
  frameOf,
  isIdleRetime,
  LONGEST_HOLD,
  type Retime,
  type RetimePlace,
  SLOWEST,
  snapped,
} from '../time';
import { Remembered } from '../kernel';
import type { DialValues, LookDocument, Setting } from './document';
import { instantOf } from './evaluation';
import { resolve } from './resolve';

type Timed = Lasting &
  Pick<ClipFacts, 'projectRate'> & { readonly pins?: ClipPins | null | undefined };

/** The same places give the same object, so that caches of what is made from a retime work. */
const made = new Remembered<Retime>(200);
const kept = (retime: Retime): Retime => made.of(JSON.stringify(retime), () => retime);

/** A look's retime in the clip's own frames; null if there is none. */
function retimeBy(look: LookDocument, clip: Timed, dials: DialValues): Retime | null {
  if (!look.retime) return null;
  const time = timeOf({ ...clip, lookRetime: null, pins: clip.pins ?? {} });
  const figure = (s: Setting, least: number, most: number): number =>
    Math.max(least, Math.min(most, resolve(look, s, dials) as number));
  const places = look.retime.places
    .map(({ at, speed, hold, to }): RetimePlace => {
      const held = hold ? figure(hold, 0, LONGEST_HOLD) : 0;
      return {
        frame: snapped(frameOf(instantOf(look, at, dials), time)),
        speed: figure(speed, SLOWEST, FASTEST),
        to,
        ...(held > 0 && { hold: held }),
      };
    })
    .sort((a, b) => a.frame - b.frame);
  // Of several places on one frame the last one counts.
  const apart = places.filter((p, i) => p.frame !== places[i + 1]?.frame);
  const retime = { places: apart, backwards: look.retime.backwards, between: look.retime.between };
  return isIdleRetime(retime) ? null : kept(retime);
}

/**
 * A clip as it runs under a look. Code that counts a clip's frames, or maps them to the footage,
 * takes this. Returns the clip itself if the look does not retime it.
 */
export function underLook<C extends Timed>(
  clip: C,
  look: LookDocument | null | undefined,
  dials: DialValues = {},
): C {
  const lookRetime = look ? retimeBy(look, clip, dials) : null;
  return (clip.lookRetime ?? null) === lookRetime ? clip : { ...clip, lookRetime };
}
