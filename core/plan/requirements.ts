/** Finds the frames of a clip that a look needs, before any of them is decoded. */
import {
  type AssetId,
  FRAME_ASSET_IDS,
  FRAME_ASSETS,
  type FrameAssetId,
  type PlacedParts,
  WHOLE_ASSET_IDS,
  WHOLE_ASSETS,
} from '../assets';
import { betweenOf, type ClipFacts, footageAt, isRetimed, retimeOf, timeOf } from '../clip';
import { clear } from '../compositing';
import {
  allLayers,
  anyLook,
  type DialValues,
  type Layer,
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
 * Whether a look may ask for an asset at some frame; anything that a dial or mover decides counts.
 * A look that asks for what is made from parts asks for the parts.
 */
export const asksFor = (asset: AssetId, look: LookDocument): boolean =>
  (asset === 'motion' && look.retime?.between === 'motion') ||
  WHOLE_ASSET_IDS.some((w) => WHOLE_ASSETS[w].from === asset && asksFor(w, look)) ||
  anyLook(look, (l) => asksForAlone(asset, l));
function asksForAlone(asset: AssetId, look: LookDocument): boolean {
  const may = mayOf(look);
  const timed = (l: Layer): boolean =>
    asset === 'motion' &&
    l.time !== undefined &&
    may(l.time['between'], `${l.key}/${TIMED}/between`, (v) => v === 'motion');
  return allLayers(look).some(
    (l) =>
      l.on &&
      (timed(l) ||
        l.steps.some(({ key, step, on, parameters }) => {
          const kind = stepOf(step);
          const use = kind && 'build' in kind ? kind.uses?.[asset] : undefined;
          if (!on || !kind || !use) return false;
          const usual = kind.parameters.find((p) => p.id === use.id)!.default;
          return may(parameters[use.id], `${l.key}/${key}/${use.id}`, (v) =>
            use.at === undefined ? Boolean(v ?? usual) : (v ?? usual) === use.at,
          );
        })),
  );
}

/** The assets in parts that a clip under a look may ask for, its retime included. */
export const assetsAsked = (
  look: LookDocument | null | undefined,
  clip: Parameters<typeof betweenOf>[0],
): readonly FrameAssetId[] =>
  FRAME_ASSET_IDS.filter(
    (a) =>
      (look && asksFor(a, look)) ||
      (a === 'motion' && betweenOf(clip) === 'motion' && isRetimed(clip)),
  );

/** Requirements are found by planning on an empty picture: they do not depend on the picture. */
const SMALL = { width: 16, height: 9 };

/** A value for each kind of asset in parts. */
export const byAsset = <V>(value: (asset: FrameAssetId) => V): Record<FrameAssetId, V> =>
  Object.fromEntries(FRAME_ASSET_IDS.map((a) => [a, value(a)])) as Record<FrameAssetId, V>;

/** What is needed to make a frame under a look. */
export interface Needs {
  /**
   * Frames of the footage in order of time: the frame's own, and those that trails and layer times
   * look at.
   */
  readonly frames: readonly FrameIndex[];
  /** Frames of which parts of assets are needed, by kind. */
  readonly parts: Readonly<Record<FrameAssetId, readonly FrameIndex[]>>;
}

/** Facts that tell what is gathered for a clip. */
export type GatheredClip = Pick<
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
  | 'chance'
>;

/** What is needed to make a frame. Found by planning it, so it always matches the plan. */
export function needs(
  look: LookDocument | null | undefined,
  facts: GatheredClip & Pick<ClipFacts, 'found'>,
  frame: FrameIndex,
  dials: DialValues = {},
): Needs {
  const clip = underLook(facts, look, dials);
  const map = retimeOf(clip);
  const alone = !look || !(looksElsewhere(look) || FRAME_ASSET_IDS.some((a) => asksFor(a, look)));
  if (alone && !map) return { frames: [frame], parts: byAsset(() => []) };
  const asked = new Set<FrameIndex>(),
    parts = byAsset(() => new Set<FrameIndex>());
  const time: ClipTime = timeOf({ ...clip, pins: clip.pins ?? {} });
  const own = (index: FrameIndex): ClipFrame => {
    asked.add(index);
    const part = <K extends FrameAssetId>(asset: K): PlacedParts[K] | undefined => {
      if (!FRAME_ASSETS[asset].exists(index, clip)) return undefined;
      parts[asset].add(index);
      return FRAME_ASSETS[asset].standIn(SMALL);
    };
    return {
      bedrock: clear(SMALL.width, SMALL.height),
      content: clip.content,
      frame: index,
      time,
      at: own,
      part,
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
  return { frames: inOrder(asked), parts: byAsset((a) => inOrder(parts[a])) };
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
