/**
 * When parts of a look act on a clip: events of steps and movers, and the next frame at which
 * something acts.
 */
import { seedOf } from '../graph';
import {
  chanceFrame,
  chanceFrames,
  type FrameIndex,
  framesOf as instantFrames,
  moverOf,
  seedNames,
} from '../time';
import { stepOf } from '../steps';
import type { Evaluation } from './at-frame';
import type { LookDocument, Mover } from './document';
import { evaluationAt, type FrameTime, instantOf, stretchOf } from './evaluation';
import { parameterAt } from './paths';
import { resolve, resolveLayer } from './resolve';
import { allLayers } from './settings';

/** A clip on which looks are evaluated, without a frame. */
export type OnClip = Omit<FrameTime, 'frame'>;

/** A step with random events, and the frames at which they begin. */
export interface StepEvents {
  readonly layer: string;
  readonly step: string;
  readonly name: string;
  readonly frames: readonly FrameIndex[];
}

const allFrames = (clip: OnClip): FrameIndex[] => Array.from({ length: clip.frames }, (_, f) => f);

/**
 * The frames at which single events of steps begin (a lost perforation, a splice). Steps that are
 * off have none.
 */
export function stepEvents(look: LookDocument, clip: OnClip): StepEvents[] {
  const eventful = allLayers(look).flatMap((l) =>
    l.steps.flatMap((s) => {
      const step = stepOf(s.step);
      return l.on && s.on && step && 'build' in step && step.begins
        ? [{ layer: l, use: s.key, step, begins: step.begins }]
        : [];
    }),
  );
  if (eventful.length === 0) return [];
  const evaluations = allFrames(clip).map((frame) => evaluationAt(look, {}, { ...clip, frame }));
  const cues = (look.pins ?? []).flatMap((p) => (p.kind === 'cue' ? (clip.cues[p.key] ?? []) : []));
  return eventful.map(({ layer, use, step, begins }) => {
    const seed = seedOf(look.seed, layer.key, use, ...seedNames(clip.content, clip));
    const frames = evaluations.flatMap((at, frame) => {
      const resolved = resolveLayer(look, layer, at),
        own = resolved.steps.find((s) => s.key === use)!;
      const acts = resolved.on && resolved.opacity > 0 && own.mix > 0;
      return acts &&
        begins(own.values, {
          frame: chanceFrame(frame, clip),
          seed,
          cuts: chanceFrames(clip.cuts ?? [], clip),
          cues: chanceFrames(cues, clip),
        })
        ? [frame]
        : [];
    });
    return { layer: layer.key, step: use, name: `${layer.name}: ${step.label}`, frames };
  });
}

/** The frames at which a mover with rare random events begins to act; empty for other movers. */
export function moverEvents(look: LookDocument, mover: Mover, clip: OnClip): FrameIndex[] {
  const target = mover.targets[0],
    found = target && parameterAt(look, target.path);
  if (!found || !mover.on || !moverOf(mover.kind)?.rare) return [];
  const alone = { ...look, movers: [mover] };
  const isMoved = (frame: FrameIndex): boolean => {
    const at = evaluationAt(alone, {}, { ...clip, frame });
    const still = resolve(alone, found.setting, {});
    return JSON.stringify(at.moved(target.path, found.parameter, still)) !== JSON.stringify(still);
  };
  const moved = allFrames(clip).map(isMoved);
  return moved.flatMap((m, f) => (m && !moved[f - 1] ? [f] : []));
}

/**
 * The frame at which a look first acts visibly on a clip: the first cue it asks for that the clip
 * has set; otherwise the first start of a span, instant of a mover or random event after the clip's
 * first frame; undefined if there is none.
 */
export function firstStrike(look: LookDocument, clip: OnClip): FrameIndex | undefined {
  const inside = (frames: readonly FrameIndex[], from: FrameIndex): FrameIndex[] =>
    frames.filter((f) => f >= from && f < clip.frames);
  const cues = inside(
    (look.pins ?? []).flatMap((p) => (p.kind === 'cue' ? (clip.cues[p.key] ?? []) : [])),
    0,
  );
  if (cues.length > 0) return Math.min(...cues);
  const spans = [
    look.span,
    ...allLayers(look).flatMap((l) => [l.span, ...l.steps.map((s) => s.span)]),
  ].flatMap((s) => (s ? [stretchOf(look, s, {}, clip).first] : []));
  const movers = (look.movers ?? []).flatMap((m) =>
    m.on
      ? [
          ...Object.values(m.instants ?? {}).flatMap((all) =>
            all.flatMap((i) => instantFrames(instantOf(look, i, {}), clip)),
          ),
          ...moverEvents(look, m, clip),
        ]
      : [],
  );
  const after = inside(
    [...spans, ...movers, ...stepEvents(look, clip).flatMap((e) => e.frames)],
    1,
  );
  return after.length > 0 ? Math.min(...after) : undefined;
}

/**
 * Whether a layer (`key`) or step (`layer/step`) acts at a frame, given its spans, opacity and mix.
 */
function acts(look: LookDocument, key: string, at: Evaluation): boolean {
  const [of, use] = key.split('/');
  const layer = allLayers(look).find((l) => l.key === of);
  if (!layer) return false;
  const resolved = resolveLayer(look, layer, at),
    step = use === undefined ? undefined : resolved.steps.find((s) => s.key === use);
  return (
    resolved.on &&
    resolved.opacity > 0 &&
    at.level(look.span) > 0 &&
    (use === undefined || (step !== undefined && step.on && step.mix > 0))
  );
}
/**
 * For something that does not act at a frame: the next frame at which it does, or the last one
 * before. Undefined if it acts at the frame, or never.
 */
export function nextActing(
  look: LookDocument,
  key: string,
  frame: FrameIndex,
  clip: OnClip,
): FrameIndex | undefined {
  const at = (f: FrameIndex): boolean =>
    acts(look, key, evaluationAt(look, {}, { ...clip, frame: f }));
  if (at(frame)) return undefined;
  const all = allFrames(clip);
  return all.slice(frame + 1).find(at) ?? all.slice(0, frame).find(at);
}
