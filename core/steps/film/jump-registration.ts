import { expd } from '../../kernel';
import { flag, number, type Values } from '../../parameters';
import { chance, either } from '../../graph';
import { builtStep, FrameContext } from '../declare';
import { displaced } from './registration';

/**
 * The rest of a jump after a number of frames, out of `back` that it takes: falls to 0 and
 * overshoots once.
 */
function left(after: number, back: number): number {
  if (after >= back) return 0;
  const t = after / back;
  return (1 - t) * (1 - t) * (after === 0 ? 1 : expd(-3 * t) * (1 - 2.4 * t));
}

/** The frames of its splices. */
const splicesOf = (
  v: Values,
  { cuts = [], cues = [] }: Pick<FrameContext, 'cuts' | 'cues'>,
): ReadonlySet<number> =>
  new Set([...(v.splice ? [0, ...cuts] : []), ...(v['splice-cues'] ? cues : [])]);
/** Whether a perforation is lost at a frame; on average once in `every` frames. */
const isLost = (seed: number, frame: number, every: number): boolean =>
  chance(seed, 1, frame) < 1 / every;

/**
 * The largest of the current jumps, in shares of the size: along the film for a lost perforation,
 * and a little across.
 */
function moveOf(
  at: FrameContext,
  every: number,
  back: number,
  splices: ReadonlySet<number>,
): readonly [number, number] {
  let best: readonly [number, number] = [0, 0];
  for (let after = 0; after < back && after <= at.frame; after++) {
    const begun = at.frame - after;
    const spliced = splices.has(begun);
    if (!spliced && !isLost(at.seed, begun, every)) continue;
    const size = (spliced ? 1 : 0.35 + 0.65 * chance(at.seed, 2, begun)) * left(after, back);
    const along = (chance(at.seed, 3, begun) < 0.75 ? 1 : -1) * size,
      across = either(at.seed, 4, begun) * 0.25 * size;
    if (Math.abs(along) > Math.abs(best[1])) best = [across, along];
  }
  return best;
}

/** Jumps of the film in the gate. */
export const jumpRegistration = builtStep({
  id: 'jump-registration',
  family: 'film',
  label: 'Jump registration',
  help: 'Now and then a perforation is missed: the picture jumps and comes back over some frames.',
  domain: 'light',
  start: { size: 26, every: 30 },
  parameters: [
    number('size', 'Size', 'lines', 0, 200, 0, { soft: [0, 80] }),
    number('every', 'About every', 'frames', 2, 10000, 120, { soft: [10, 500] }),
    number('back', 'Returns over', 'frames', 1, 48, 5, { soft: [1, 16] }),
    flag('splice', 'Splice bump', false, {
      help: 'At the first frame and where another shot begins, as a splice does in the gate.',
    }),
    flag('splice-cues', 'Splice at cues', false, {
      help: 'Also at every cue that the look asks for.',
    }),
  ],
  begins: (v, at) =>
    v.size > 0 && (splicesOf(v, at).has(at.frame) || isLost(at.seed, at.frame, v.every)),
  build: (input, v, at) => {
    const size = v.size;
    if (size === 0) return input;
    const [across, along] = moveOf(at, v.every, Math.round(v.back), splicesOf(v, at));
    // The margin is always there. A picture that zoomed in only for the jump would give it away.
    return displaced(input, at, [across * size, along * size], size);
  },
});
