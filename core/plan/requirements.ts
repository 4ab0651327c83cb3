/** Finds the frames of a clip that a look needs, before any of them is decoded. */
import { betweenOf, type ClipFacts, footageAt, motionOfNothing, retimeOf, timeOf } from '../clip';
import { clear } from '../compositing';
import {
  allLayers,
  anyLook,
  type DialValues,
  type LookDocument,
  type Setting,
  TIMED,
  underLook,
} from '../look';
import { stepOf } from '../steps';
import type { ClipTime, FrameIndex } from '../time';
import { plan } from './plan';
import type { ClipFrame } from './scene';
import { retimedFrame } from './retimed';

/**
 * Whether a setting may have a value for which `asks` is true. Dials, pins and movers may give any
 * value.
 */
type May = (setting: Setting | undefined, path: string, asks: (v: unknown) => boolean) => boolean;
function mayOf(look: LookDocument): May {
  const moved = new Set(
    (look.movers ?? []).flatMap((m) => (m.on ? m.targets.map((t) => t.path) : [])),
  );
  return (setting, path, asks) =>
    moved.has(path) ||
    (setting !== undefined && !('value' in setting)) ||
    asks((setting as { value: unknown } | undefined)?.value);
}

/** Whether a look may look at frames other than the current one. */
export const looksElsewhere = (look: LookDocument): boolean => anyLook(look, looksElsewhereAlone);
function looksElsewhereAlone(look: LookDocument): boolean {
  const may = mayOf(look);
  return allLayers(look).some(
    (l) =>
      l.time !== undefined ||
      l.steps.some(({ key, step, parameters }) => {
        const kind = stepOf(step);
        if (!kind || !('build' in kind) || !kind.looksBack) return false;
        if (kind.looksBack === true) return true;
        const { id, at } = kind.looksBack;
        return may(parameters[id], `${l.key}/${key}/${id}`, (v) => at.includes(v as string));
      }),
  );
}

/**
 * Whether a look may ask for the clip's motion at some frame; anything that a dial or mover decides
 * counts.
 */
export const asksForMotion = (look: LookDocument): boolean =>
  look.retime?.between === 'motion' || asksForSpeeds(look) || anyLook(look, asksForMotionAlone);
function asksForMotionAlone(look: LookDocument): boolean {
  const may = mayOf(look);
  return allLayers(look).some(
    (l) =>
      l.on &&
      ((l.time && may(l.time['between'], `${l.key}/${TIMED}/between`, (v) => v === 'motion')) ||
        l.steps.some(({ key, step, on, parameters }) => {
          const kind = stepOf(step);
          if (!on || !kind || !('build' in kind) || kind.usesMotion === undefined) return false;
          const id = kind.usesMotion,
            without = kind.parameters.find((p) => p.id === id)!.default;
          return may(parameters[id], `${l.key}/${key}/${id}`, (v) =>
            typeof without === 'string' ? (v ?? without) === 'motion' : Boolean(v ?? without),
          );
        })),
  );
}

/**
 * Whether a look may count by distance travelled. If so, `needs` and the frames must know the
 * footage's speeds.
 */
export const asksForSpeeds = (look: LookDocument): boolean => anyLook(look, asksForSpeedsAlone);
const asksForSpeedsAlone = (look: LookDocument): boolean =>
  allLayers(look).some((l) =>
    l.steps.some(({ key, step, on, parameters }) => {
      const kind = stepOf(step);
      if (!on || !kind || !('build' in kind) || !kind.countsWay) return false;
      const { id, at } = kind.countsWay,
        setting = parameters[id];
      const moves = (look.movers ?? []).some(
        (m) => m.on && m.targets.some((t) => t.path === `${l.key}/${key}/${id}`),
      );
      return moves || (setting !== undefined && 'value' in setting && setting.value === at);
    }),
  );

/** Requirements are found by planning on an empty picture: they do not depend on the picture. */
const SMALL = { width: 16, height: 9 };

/** What is needed to make a frame under a look. */
export interface Needs {
  /**
   * Frames of the footage in order of time: the frame's own, and those that trails and layer times
   * look at.
   */
  readonly frames: readonly FrameIndex[];
  /** Frames whose motion to the next one is needed. */
  readonly motions: readonly FrameIndex[];
}

/** What is needed to make a frame. Found by planning it, so it always matches the plan. */
export function needs(
  look: LookDocument | null | undefined,
  facts: Pick<
    ClipFacts,
    | 'content'
    | 'frames'
    | 'rate'
    | 'projectRate'
    | 'pins'
    | 'inOut'
    | 'cuts'
    | 'retime'
    | 'lookRetime'
    | 'speeds'
    | 'chance'
  >,
  frame: FrameIndex,
  dials: DialValues = {},
): Needs {
  const clip = underLook(facts, look, dials);
  const map = retimeOf(clip);
  const alone = !look || !(looksElsewhere(look) || asksForMotion(look));
  if (alone && !map) return { frames: [frame], motions: [] };
  const asked = new Set<FrameIndex>(),
    motions = new Set<FrameIndex>();
  const time: ClipTime = timeOf({ ...clip, pins: clip.pins ?? {} });
  const own = (index: FrameIndex): ClipFrame => {
    asked.add(index);
    const motion = () => {
      // The last frame of a shot has no motion to the next.
      if (index > clip.frames - 2 || clip.cuts?.includes(index + 1)) return undefined;
      motions.add(index);
      return motionOfNothing(SMALL);
    };
    return {
      bedrock: clear(SMALL.width, SMALL.height),
      content: clip.content,
      frame: index,
      time,
      at: own,
      motion,
    };
  };
  const first = (
    map
      ? retimedFrame(own, {
          map,
          between: betweenOf(clip),
          time,
          follows: () => true,
          cuts: clip.cuts,
        })
      : own
  )(frame)!;
  if (!alone) plan({ ...look, bedrock: true }, first, dials);
  const inOrder = (all: ReadonlySet<FrameIndex>): FrameIndex[] => [...all].sort((a, b) => a - b);
  return { frames: inOrder(asked), motions: inOrder(motions) };
}
/** Frames of a clip needed to make one under a look, in order of time. */
export const requirements = (...of: Parameters<typeof needs>): readonly FrameIndex[] =>
  needs(...of).frames;

/** The most frames that a look looks back and ahead, over the given frames. */
export interface Reach {
  readonly before: number;
  readonly behind: number;
}
/** The reach of a look on a clip. */
export function reachOf(
  look: LookDocument,
  clip: Parameters<typeof requirements>[1],
  frames: readonly FrameIndex[],
  dials: DialValues = {},
): Reach {
  let [before, behind] = [0, 0];
  const retimed = underLook(clip, look, dials);
  for (const frame of frames) {
    const needed = requirements(look, clip, frame, dials);
    const own = footageAt(retimed, frame);
    before = Math.max(before, own - needed[0]!);
    behind = Math.max(behind, needed.at(-1)! - own);
  }
  return { before, behind };
}
