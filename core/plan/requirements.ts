/** Which frames of a clip a look looks at, found before any of them is decoded. */
import { timeOf, type ClipFacts } from '../clip';
import { clear } from '../compositing';
import { allLayers, type DialValues, type LookDocument } from '../look';
import { stepOf } from '../steps';
import type { ClipTime, FrameIndex } from '../time';
import { type ClipFrame, plan } from './compositor';

const looksBack = (id: string): boolean => {
  const step = stepOf(id);
  return step !== undefined && 'build' in step && step.looksBack === true;
};

/** Whether a look may look at frames other than the one it makes. */
export const looksElsewhere = (look: LookDocument): boolean =>
  allLayers(look).some((l) => l.time !== undefined || l.steps.some((s) => looksBack(s.step)));

/** Planned on a picture of nothing: which frames are asked for does not depend on what they show. */
const SMALL = { width: 16, height: 9 };

/**
 * The frames of a clip that must be at hand to make one under a look, in order of time: that frame itself and those its
 * trails and layer times look at. Found by planning it, so that it cannot differ from what the plan asks for.
 */
export function requirements(
  look: LookDocument | null | undefined,
  clip: Pick<ClipFacts, 'content' | 'frames' | 'rate' | 'projectRate' | 'pins'>,
  frame: FrameIndex,
  dials: DialValues = {},
): FrameIndex[] {
  if (!look || !looksElsewhere(look)) return [frame];
  const asked = new Set<FrameIndex>();
  const time: ClipTime = timeOf({ ...clip, pins: clip.pins ?? {} });
  const at = (index: FrameIndex): ClipFrame => {
    asked.add(index);
    return { bedrock: clear(SMALL.width, SMALL.height), content: clip.content, frame: index, time, at };
  };
  plan({ ...look, bedrock: true }, at(frame), dials);
  return [...asked].sort((a, b) => a - b);
}

/** How many frames before and behind each frame a look looks at, at most, over the frames that are given. */
export interface Reach {
  readonly before: number;
  readonly behind: number;
}
export function reachOf(look: LookDocument, clip: Parameters<typeof requirements>[1], frames: readonly FrameIndex[], dials: DialValues = {}): Reach {
  let [before, behind] = [0, 0];
  for (const frame of frames) {
    const needed = requirements(look, clip, frame, dials);
    before = Math.max(before, frame - needed[0]!);
    behind = Math.max(behind, needed.at(-1)! - frame);
  }
  return { before, behind };
}
