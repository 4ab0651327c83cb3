/** Plans a look on one frame of a clip as a graph. */
import { inTarget } from '../clip';
import type { ImageNode } from '../graph';
import type { DialValues, LookDocument } from '../look';
import type { FrameIndex } from '../time';
import { Compositor, type Visit } from './compositor';
import type { ClipFrame, Plan } from './scene';

/** The same object every time, so that what was resolved with it is found again. */
const NO_DIALS: DialValues = {};

/**
 * The graph of a look over a clip's frame. `dials` replace the look's own values (trims, a dial
 * being dragged).
 */
export function plan(asked: LookDocument, clip: ClipFrame, dials = NO_DIALS): Plan {
  const own = compositorOf(asked, clip, dials);
  const placed = (p: ImageNode): ImageNode => inTarget(p, clip.framed);
  const shown = (p: ImageNode): ImageNode => placed(own.contained(p));
  const all = (pictures: ReadonlyMap<string, ImageNode>, as: (p: ImageNode) => ImageNode) =>
    new Map([...pictures].map(([key, p]) => [key, as(p)]));
  return {
    result: placed(own.picture()),
    bedrock: placed(clip.bedrock),
    strata: all(own.strata, shown),
    mattes: all(own.mattes, placed),
  };
}

/** A look at a frame, with access to itself at other frames; each is made once. */
function compositorOf(look: LookDocument, clip: ClipFrame, dials: DialValues): Compositor {
  const made = new Map<FrameIndex, Compositor | undefined>();
  const visit: Visit = (frame) => {
    if (!made.has(frame)) {
      const there = clip.at?.(frame);
      made.set(frame, there && new Compositor(look, there, dials, visit));
    }
    return made.get(frame);
  };
  const own = new Compositor(look, clip, dials, visit);
  made.set(clip.frame, own);
  return own;
}
