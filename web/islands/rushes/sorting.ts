/** Order and filter of clips on Rushes, and which of their facts need attention. */
import { cutsUndecided, inOutOf, lengthOf } from '../../../core';
import { framesPerSecond } from '../../../core/time';
import type { ClipView } from '../../data/views';
import { encodingLabel } from '../../domain/words';

type Sorted = Pick<
  ClipView,
  | 'name'
  | 'role'
  | 'format'
  | 'rate'
  | 'frames'
  | 'inOut'
  | 'retime'
  | 'cutsFound'
  | 'cutsSaid'
  | 'encoding'
  | 'guess'
  | 'untagged'
  | 'slots'
  | 'warnings'
>;

/** Orders. */
export const ORDERS = ['as brought', 'name', 'size', 'rate', 'length', 'encoding'] as const;
/** One of `ORDERS`. */
export type Order = (typeof ORDERS)[number];
/** Filters. */
export const SHOWN = ['all', 'worth a look'] as const;
/** One of `SHOWN`. */
export type Shown = (typeof SHOWN)[number];

/**
 * Detected cuts between a clip's in and out that nobody has decided on, as frames of its footage.
 */
export const openCuts = ({
  frames,
  inOut,
  cutsFound,
  cutsSaid,
}: Pick<Sorted, 'frames' | 'inOut' | 'cutsFound' | 'cutsSaid'>): number[] =>
  cutsUndecided(cutsFound, cutsSaid).filter(inside({ frames, inOut }));
/** Whether a cut before a frame of the footage lies inside a clip. */
export const inside = (clip: Pick<Sorted, 'frames' | 'inOut'>): ((frame: number) => boolean) => {
  const { in: first, out } = inOutOf(clip);
  return (frame) => frame > first && frame <= out;
};

/** What was guessed about a clip or is unusual about its file, in short texts. */
export const worthALook = (clip: Sorted): string[] => {
  const {
    format: { fields = 'none' },
    encoding,
    guess,
    untagged,
    slots,
    warnings,
  } = clip;
  // The cuts of a plate do not matter.
  const cuts = clip.role === 'plate' ? 0 : openCuts(clip).length;
  return [
    ...(untagged && encoding === guess ? ['encoding guessed'] : []),
    ...(fields === 'none' ? [] : ['interlaced']),
    ...(slots ? ['uneven rate'] : []),
    ...(warnings.length > 0 ? ['doubts'] : []),
    ...(cuts > 0 ? [cuts === 1 ? 'a cut inside' : `${cuts} cuts inside`] : []),
  ];
};

const FIGURES: Partial<Record<Order, (c: Sorted) => number>> = {
  size: (c) => -c.format.width * c.format.height,
  rate: (c) => framesPerSecond(c.rate),
  length: (c) => -lengthOf(c) / framesPerSecond(c.rate),
};
const WORDS: Partial<Record<Order, (c: Sorted) => string>> = {
  name: (c) => c.name,
  encoding: (c) => encodingLabel(c.encoding),
};

/**
 * Clips whose names contain a text, in an order (largest and longest first); equal ones keep the
 * order of import.
 */
export function sorted<C extends Sorted>(
  clips: readonly C[],
  order: Order,
  shown: Shown,
  typed = '',
): C[] {
  const [figure, word] = [FIGURES[order], WORDS[order]];
  const part = typed.trim().toLowerCase();
  return clips
    .filter(
      (c) => c.name.toLowerCase().includes(part) && (shown === 'all' || worthALook(c).length > 0),
    )
    .sort((a, b) =>
      figure
        ? figure(a) - figure(b)
        : word
          ? word(a).localeCompare(word(b), undefined, { numeric: true })
          : 0,
    );
}
