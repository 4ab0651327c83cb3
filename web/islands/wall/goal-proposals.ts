/** Goals on chosen clips: the trims at which the look's dials reach them. */
import { useRef, useState } from 'react';
import {
  type Dial,
  type DialValues,
  type Goal,
  type LookDocument,
  reach,
  type Reached,
  withTrims,
  withTrim,
  lengthOf,
  underLook,
} from '../../../core';
import type { ClipView, ProjectView, VersionView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { sized } from '../../domain/views';

/** A dial with a goal. */
export type GoalDial = Dial & { readonly goal: Goal };
/** Dials with goals. */
export const goalDials = (look: LookDocument): GoalDial[] =>
  look.dials.filter((d): d is GoalDial => d.goal !== undefined);

/** A proposal for a clip. */
export interface GoalProposal {
  readonly clip: ClipView;
  /** All trims of the look that the clip would have. */
  readonly trims: DialValues;
  readonly dials: readonly {
    readonly dial: GoalDial;
    readonly from: number;
    readonly figure: number;
    readonly to: Reached;
  }[];
}
/** Proposals for clips. */
export interface GoalProposals {
  readonly proposals: readonly GoalProposal[];
  /** Number of clips still to be measured. */
  readonly left: number;
  readonly propose: (clips: readonly ClipView[], version: VersionView) => Promise<void>;
  readonly stop: () => void;
}

const LINES = 135,
  FRAMES = 3;
const framesOf = (c: ClipView, look: LookDocument): number[] => {
  const length = lengthOf(underLook(c, look)),
    count = Math.min(FRAMES, length);
  return Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * length) / count));
};

/** The trims of a clip, dial after dial, each measured with the earlier ones applied. */
async function aim(
  engine: EngineClient,
  project: ProjectView,
  clip: ClipView,
  version: VersionView,
): Promise<GoalProposal> {
  const [width, height] = sized(project, LINES);
  let trims: DialValues = clip.trims[version.lookId] ?? {};
  const dials: GoalProposal['dials'][number][] = [];
  for (const dial of goalDials(version.document)) {
    const measure = async (values: readonly number[]): Promise<number[]> => {
      const looks = values.map((v) => withTrims(version.document, withTrim(trims, dial.key, v)));
      const figures = await engine.survey({
        clip: clip.id,
        frames: framesOf(clip, looks[0]!),
        looks,
        width,
        height,
      });
      return figures.map((f) => f[dial.goal.of]);
    };
    const from = withTrims(version.document, trims).dials.find((d) => d.key === dial.key)!
      .value as number;
    const [figure] = await measure([from]);
    const to = await reach(dial.goal, [dial.min!, dial.max!], from, measure);
    // Unreachable goals are reported and their dials left unchanged.
    if (to.reached && to.value !== from) trims = withTrim(trims, dial.key, to.value);
    dials.push({ dial, from, figure: figure!, to });
  }
  return { clip, trims, dials };
}

/** State of goal proposals. */
export function useGoalProposals(engine: EngineClient, project: ProjectView): GoalProposals {
  const [proposals, setProposals] = useState<readonly GoalProposal[]>([]);
  const [left, setLeft] = useState(0);
  const run = useRef(0);
  return {
    proposals,
    left,
    propose: async (clips, version) => {
      const own = ++run.current;
      setProposals([]);
      setLeft(clips.length);
      for (const clip of clips) {
        const aimed = await aim(engine, project, clip, version);
        if (run.current !== own) return;
        setProposals((all) => [...all, aimed]);
        setLeft((n) => n - 1);
      }
    },
    stop: () => {
      run.current++;
      setProposals([]);
      setLeft(0);
    },
  };
}
