/**
 * Points followed through footage: coarse to fine from frame to frame, and checked at every frame
 * against the patch of the last mark, which corrects the chain and says how sure the place is.
 */
import type { RawFrame } from '../image';
import { cosTurnsd, sinTurnsd } from '../kernel';
import { type Luma, pyramid } from './luma';
import { fullLuma } from './raw-luma';
import {
  cornerness,
  type Found,
  findPatch,
  likeness,
  type Patch,
  patchAt,
  resized,
  searched,
  upright,
  type Warp,
} from './patch';

/** Version of the method. Results of another version are made again. */
export const POINTS_METHOD = 'points-2';

/** A place in pixels from the upper left corner; the first pixel's middle is at 0.5. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}
/** A place that was followed: `sure` 1 if the mark's patch agrees, less where only the chain does. */
export interface FollowedSpot extends Spot {
  readonly sure: number;
}

/** Half the side of patches, in pixels of the footage and of each smaller size. */
export const PATCH_RADIUS = 12;
const CHAIN_RADIUS = 9;
/** Number of sizes for frame to frame. */
const SIZES = 4;
/** Coarsest size at which what is bare at the footage's own is followed by what lies around it. */
export const COARSEST = 2;
/** How sure a place is at most that is followed by what lies around it: it is less exact. */
const SURE_AROUND = 0.7;
/** Half the side of the small patch that must agree with the large one. */
const SMALL_RADIUS = 7;
/** Correlation from which the mark's patch counts as found, and beyond which it is found again. */
const LIKE = 0.85,
  FOUND_AGAIN = 0.92;
/** Unexplained share of a quarter beyond which something covers it. */
const COVERED = 0.4;
/** Standard deviation of a place, in pixels, beyond which it is not known. */
const VAGUE = 0.11,
  VAGUE_AGAIN = 0.09;
/** Pixels between the places of the large and the small patch. */
const APART = 0.7;
/** Pixels by which the mark's patch may correct the chain, and more for each frame it was alone. */
const CORRECTS = 1.2,
  CORRECTS_MORE = 0.25;
/** Corrections that add up to more pixels than this over some frames are no noise: it slides. */
const SLIDES = 1.5,
  SLIDE_FRAMES = 16;
/** Correlation from which a recent patch counts as found, and that the mark's must still have there. */
const LIKE_RECENT = 0.9,
  LIKE_MARK = 0.5;
/** Frames after which a sure one gives the recent patch, and the correlation it must have. */
const RENEWED = 5,
  RENEWS = 0.92;
/** Frames that the chain alone bridges. */
const BRIDGED = 10;
/** Pixels between a place and where it came from when followed there and back. */
const BACK = 0.7;
/** Pixels around the last place where a lost one is looked for, at most. */
const FARTHEST = 64;
/** Least cornerness of a place that can be followed. */
export const FOLLOWABLE = 1.2;

/** Distance of two places. */
export const apart = (p: Spot, q: Spot): number =>
  Math.sqrt((p.x - q.x) * (p.x - q.x) + (p.y - q.y) * (p.y - q.y));

/** A frame's luma at several sizes. */
export type Sizes = readonly Luma[];
/** The sizes of a frame that points are followed on. */
export const sizesOf = (raw: RawFrame): Sizes =>
  pyramid(fullLuma(raw), 12).slice(0, COARSEST + SIZES);
/** The sizes from a level on: patches of them reach twice as far at each. */
export const sizesFrom = (sizes: Sizes, level: number): Sizes => sizes.slice(level, level + SIZES);

/** Whether a place can be followed, and if not, the nearest that can. */
export function followable(
  sizes: Sizes,
  { x, y }: Spot,
): { readonly is: boolean; readonly nearest: Spot | undefined } {
  const luma = sizes[0]!;
  const good = (at: Spot, radius = PATCH_RADIUS): boolean =>
    cornerness(luma, at.x, at.y, radius) >= FOLLOWABLE;
  if (good({ x, y })) return { is: true, nearest: { x, y } };
  for (let far = 4; far <= 96; far += 4) {
    const around = Math.ceil((2 * Math.PI * far) / 6);
    for (let i = 0; i < around; i++) {
      const at = {
        x: x + far * cosTurnsd(i / around),
        y: y + far * sinTurnsd(i / around),
      };
      if (at.x < 0 || at.y < 0 || at.x > luma.width || at.y > luma.height) continue;
      // What is proposed lies on the pattern itself, not beside it.
      if (good(at) && good(at, SMALL_RADIUS)) return { is: false, nearest: at };
    }
  }
  return { is: false, nearest: undefined };
}

/** A mark with its patch at the first two sizes. */
interface Reference {
  readonly fine: Patch;
  readonly coarse: Patch | undefined;
  readonly inner: Patch | undefined;
  /** At a quarter of the size, for looking where it might have gone. */
  readonly small: Patch | undefined;
}
const referenceAt = (sizes: Sizes, warp: Warp): Reference | undefined => {
  const fine = patchAt(sizes[0]!, warp, PATCH_RADIUS);
  const smaller = (level: number, radius: number): Patch | undefined =>
    sizes[level] && patchAt(sizes[level], resized(warp, 2 ** -level), radius);
  return (
    fine && {
      fine,
      coarse: smaller(1, PATCH_RADIUS),
      inner: smaller(0, SMALL_RADIUS),
      small: smaller(2, 6),
    }
  );
};

/** Position of a place from one frame to another, coarse to fine; undefined if it is not found. */
function chained(
  from: Sizes,
  to: Sizes,
  at: Spot,
  guess: Spot,
): (Spot & { like: number }) | undefined {
  let place = guess,
    like = 0;
  for (let level = Math.min(from.length, to.length) - 1; level >= 0; level--) {
    const by = 2 ** -level;
    const patch = patchAt(from[level]!, resized(upright(at.x, at.y), by), CHAIN_RADIUS);
    const found =
      patch && findPatch(patch, to[level]!, resized(upright(place.x, place.y), by), 2, 16);
    if (found && found.like > 0.4) {
      place = { x: found.warp.x / by, y: found.warp.y / by };
      like = found.like;
    } else if (level === 0) return undefined;
  }
  return { ...place, like };
}

/** The mark's patch at a guess: at half the size first, if the guess may be far off. */
function matched(
  { fine, coarse }: Reference,
  sizes: Sizes,
  guess: Warp,
  far = false,
): Found | undefined {
  let start = guess;
  if (far && coarse && sizes[1]) {
    const first = findPatch(coarse, sizes[1], resized(guess, 0.5), 2);
    if (first && first.like > 0.5) start = resized(first.warp, 2);
  }
  return findPatch(fine, sizes[0]!, start, 6, 30);
}
/** Whether a match can be trusted: alike, uncovered, held both ways, and its middle alone agrees. */
function agrees(found: Found, { inner }: Reference, sizes: Sizes, least: number): boolean {
  if (found.like < least || found.worst > COVERED || found.vague > VAGUE) return false;
  const own = inner && findPatch(inner, sizes[0]!, found.warp, 2);
  return own !== undefined && own.like > least - 0.1 && apart(own.warp, found.warp) <= APART;
}

/** One point on its way through frames in one direction. */
export class Follower {
  private warp: Warp;
  private before: Sizes;
  private speed: Spot = { x: 0, y: 0 };
  /** Frames since the mark's patch was last found. */
  private alone = 0;
  private lost = false;
  /** The patch of a later sure frame, for what turns, bends or blurs, with its shape since. */
  private recent:
    { readonly reference: Reference; readonly warp: Warp; readonly age: number } | undefined;
  private readonly corrections: Spot[] = [];
  /** Where a lost place seemed to be on the frame before. */
  private candidate: Warp | undefined;
  private readonly reference: Reference | undefined;

  /** Starts at a mark on a frame. */
  constructor(sizes: Sizes, mark: Spot) {
    this.warp = upright(mark.x, mark.y);
    this.before = sizes;
    this.reference = referenceAt(sizes, this.warp);
    this.lost = !this.reference;
  }

  /** The place on the next frame; undefined where it is lost. */
  next(sizes: Sizes): FollowedSpot | undefined {
    const found = this.lost ? this.again(sizes) : this.on(sizes);
    this.before = sizes;
    return found;
  }

  private take(warp: Warp, sure: boolean): FollowedSpot {
    this.speed =
      sure || this.alone < 3 ? { x: warp.x - this.warp.x, y: warp.y - this.warp.y } : this.speed;
    this.warp = warp;
    return {
      x: warp.x,
      y: warp.y,
      sure: sure ? 1 : Math.max(0.1, 0.5 - this.alone / (2.5 * BRIDGED)),
    };
  }

  private on(sizes: Sizes): FollowedSpot | undefined {
    const { warp, speed, reference } = this;
    const ahead = { x: warp.x + speed.x, y: warp.y + speed.y };
    const chain =
      chained(this.before, sizes, warp, ahead) ?? chained(this.before, sizes, warp, warp);
    const start = chain ? { ...warp, x: chain.x, y: chain.y } : { ...warp, ...ahead };
    const match = matched(reference!, sizes, start, !chain);
    const far = match ? apart(match.warp, start) : Infinity;
    const most = chain ? CORRECTS + CORRECTS_MORE * this.alone : 2;
    if (
      match &&
      far <= most &&
      agrees(match, reference!, sizes, LIKE) &&
      !this.slides(match.warp, start)
    ) {
      this.alone = 0;
      this.renew(sizes, match.warp, match.like);
      return this.take(match.warp, true);
    }
    const by = this.byRecent(sizes, start, most);
    if (by) {
      this.alone = 0;
      return this.take(by, true);
    }
    this.alone++;
    const back = chain && chained(sizes, this.before, chain, warp);
    const holds = chain && chain.like >= 0.8 && back && apart(back, warp) <= BACK;
    if (holds && this.alone <= BRIDGED)
      return this.take({ ...warp, x: chain.x, y: chain.y }, false);
    this.lost = true;
    return undefined;
  }

  /** Takes the patch of this frame as the recent one, if it is sure and the last is old enough. */
  private renew(sizes: Sizes, { x, y }: Spot, like: number): void {
    const age = (this.recent?.age ?? RENEWED) + 1;
    const reference =
      age > RENEWED && like >= RENEWS ? referenceAt(sizes, upright(x, y)) : undefined;
    if (reference) this.recent = { reference, warp: upright(x, y), age: 0 };
    else if (this.recent) this.recent = { ...this.recent, age };
  }

  /**
   * Where the recent patch is found, provided that the mark's is not altogether different there: it
   * may have turned or blurred, but not have been covered little by little.
   */
  private byRecent(sizes: Sizes, start: Warp, most: number): Warp | undefined {
    const { recent, reference } = this;
    if (!recent) return undefined;
    const match = matched(recent.reference, sizes, { ...recent.warp, x: start.x, y: start.y });
    if (
      !match ||
      apart(match.warp, start) > most ||
      !agrees(match, recent.reference, sizes, LIKE_RECENT)
    )
      return undefined;
    const { x, y } = match.warp,
      warp = { ...start, x, y };
    if (likeness(reference!.fine, sizes[0]!, warp) < LIKE_MARK) return undefined;
    if (this.slides(warp, start)) return undefined;
    this.recent = { ...recent, warp: match.warp };
    this.renew(sizes, warp, match.like);
    return warp;
  }

  /** Whether corrections of the chain add up to one direction. */
  private slides(found: Spot, chain: Spot): boolean {
    this.corrections.push({ x: found.x - chain.x, y: found.y - chain.y });
    if (this.corrections.length > SLIDE_FRAMES) this.corrections.shift();
    const sum = this.corrections.reduce((s, c) => ({ x: s.x + c.x, y: s.y + c.y }), { x: 0, y: 0 });
    return apart(sum, { x: 0, y: 0 }) > SLIDES;
  }

  /** Looks for a lost place around where it was last seen. */
  private again(sizes: Sizes): FollowedSpot | undefined {
    this.alone++;
    const { reference, warp, candidate: before } = this;
    this.candidate = undefined;
    if (!reference?.small || !sizes[2]) return undefined;
    const distance = Math.min(FARTHEST, 12 + 3 * this.alone) / 4;
    const seen = searched(reference.small, sizes[2], resized(warp, 0.25), Math.ceil(distance));
    if (!seen || seen.like < 0.8) return undefined;
    const start = { ...warp, x: seen.best.x * 4, y: seen.best.y * 4 };
    const match = matched(reference, sizes, start, true);
    if (!match || !agrees(match, reference, sizes, FOUND_AGAIN)) return undefined;
    if (match.vague > VAGUE_AGAIN || (seen.second > seen.like - 0.04 && seen.second > 0.85))
      return undefined;
    // Twice where the chain leads from the one to the other: once may be something else.
    const led = before && chained(this.before, sizes, before, before);
    this.candidate = match.warp;
    if (!led || apart(led, match.warp) > CORRECTS) return undefined;
    this.candidate = undefined;
    this.corrections.length = 0;
    this.alone = 0;
    this.lost = false;
    this.warp = match.warp;
    this.speed = { x: match.warp.x - before.x, y: match.warp.y - before.y };
    return { x: match.warp.x, y: match.warp.y, sure: 1 };
  }
}

/**
 * Follows a mark in one direction: by the patch around it, or where that is bare (the disc of a sun,
 * a wide blur) by one of a smaller size, which reaches further. `level` of that size; undefined if
 * it is bare at all of them.
 */
export function followed(
  start: Sizes,
  mark: Spot,
): {
  readonly level: number | undefined;
  readonly next: (sizes: Sizes) => FollowedSpot | undefined;
} {
  const canAt = (l: number, radius: number): boolean => {
    const at = scaled(mark, 2 ** -l);
    return cornerness(start[l]!, at.x, at.y, radius) >= FOLLOWABLE;
  };
  // At a smaller size the middle must be told by something as well: it has to agree.
  const level = levels(start).find(
    (l) => canAt(l, PATCH_RADIUS) && (l === 0 || canAt(l, SMALL_RADIUS)),
  );
  const by = 2 ** (level ?? 0);
  const follower = new Follower(sizesFrom(start, level ?? 0), scaled(mark, 1 / by));
  return {
    level,
    next(sizes) {
      const spot = follower.next(sizesFrom(sizes, level ?? 0));
      return spot && { ...scaled(spot, by), sure: sureAt(level ?? 0, spot.sure) };
    },
  };
}
/** Levels at which something may be followed, from the footage's own size. */
export const levels = (sizes: Sizes): readonly number[] =>
  sizes.slice(0, COARSEST + 1).map((_, level) => level);
/** How sure a place is that was followed at a level. */
export const sureAt = (level: number, sure: number): number =>
  level > 0 ? Math.min(sure, SURE_AROUND) : sure;
const scaled = ({ x, y }: Spot, by: number): Spot => ({ x: x * by, y: y * by });
