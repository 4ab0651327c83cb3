/**
 * Finds layers and steps without effect: those whose absence changes no pixel. The look is planned
 * without each; equal keys settle most cases. The rest give a small picture of the difference, to
 * be measured with an engine.
 */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';
import { allLayers, edit, type LookDocument } from '../look';
import { plan } from './plan';
import type { ClipFrame, Plan } from './scene';

/** Why something has no effect. */
export type Idle =
  'off' | 'no opacity' | 'empty matte' | 'covered' | 'outside the frame' | 'changes nothing';
/** The same, as text. */
export const IDLE_WORDS: Record<Idle, string> = {
  off: 'is switched off',
  'no opacity': 'has no opacity',
  'empty matte': 'its matte is empty here',
  covered: 'is covered by what lies above',
  'outside the frame': 'lies outside the frame',
  'changes nothing': 'changes nothing here',
};

/**
 * A layer (`key`) or step (`layer/step`) with the pictures to measure: it has no effect if they are
 * 0 everywhere.
 */
export interface Question {
  readonly key: string;
  /** Known from the document alone. */
  readonly known?: Idle;
  /** The differences of the layer's result, and of the look's, without it. */
  readonly own?: ImageNode;
  readonly whole?: ImageNode;
  readonly matte?: ImageNode | undefined;
  readonly placed: boolean;
}

/** The larger one of the differences of colour and coverage, in one plane. */
function apart(a: ImageNode, b: ImageNode): ImageNode | undefined {
  if (a.key === b.key) return undefined;
  const [x, y] = [inDomain(a, 'encoded'), inDomain(b, 'encoded')];
  return imageOp({
    shape: `apart-${x.planes}-${y.planes}`,
    inputs: [pointwise(x), pointwise(y)],
    planes: 1,
    domain: 'none',
    build: (at) => {
      const [p, q] = [at.pixel(0), at.pixel(1)];
      const pairs = Array.from(
        { length: Math.max(p.length, q.length) },
        (_, i) => [p[i], q[i]] as const,
      );
      const off = pairs.map(([u, v]) => (u && v ? u.sub(v) : (u ?? v)!.sub(1)).abs());
      return [off.reduce((m, v) => m.max(v))];
    },
  });
}

/** A question for every layer and step of a look on one frame, planned lazily. */
export function* questions(look: LookDocument, clip: ClipFrame): Generator<Question> {
  const full = {
    ...look,
    dials: look.dials.map((d) => (d.key === 'strength' ? { ...d, value: 100 } : d)),
  };
  const as: Plan = plan(full, clip);
  for (const l of allLayers(full)) {
    const without = plan(edit.changeLayer(full, l.key, { on: false }), clip);
    const [here, gone] = [as.strata.get(l.key), without.strata.get(l.key)];
    const placed = l.placement !== undefined;
    const layer: Question = { key: l.key, placed, matte: as.mattes.get(l.key) };
    const whole = apart(as.result, without.result);
    // A layer with no opacity may still be looked at by others.
    const own = (here && gone && apart(here, gone)) ?? whole;
    if (!l.on) {
      yield { ...layer, known: 'off' };
      continue;
    }
    const opacity = plan(
      edit.changeLayer(full, l.key, { opacity: { value: 100 } }),
      clip,
    ).strata.get(l.key);
    yield own
      ? { ...layer, own, ...(whole && { whole }), ...(!whole && { known: 'covered' as const }) }
      : {
          ...layer,
          known: here && opacity && here.key !== opacity.key ? 'no opacity' : 'changes nothing',
        };
    for (const s of l.steps) {
      const key = `${l.key}/${s.key}`;
      if (!s.on) {
        yield { key, known: 'off', placed: false };
        continue;
      }
      const alone = plan(edit.changeStep(full, l.key, s.key, { on: false }), clip).strata.get(
        l.key,
      );
      const off = here && alone && apart(here, alone);
      yield off
        ? { key, own: off, matte: as.mattes.get(key), placed: false }
        : { key, known: 'changes nothing', placed: false };
    }
  }
}

/** Smaller differences are not visible. */
const UNSEEN = 1 / 1024;

/**
 * The answer; `most` returns the largest number of a picture. Undefined if it has a visible effect.
 */
export function answered(q: Question, most: (p: ImageNode) => number): Idle | undefined {
  if (q.known) return q.known;
  if (q.matte && most(q.matte) < UNSEEN) return 'empty matte';
  if (most(q.own!) < UNSEEN) return q.placed ? 'outside the frame' : 'changes nothing';
  return q.whole && most(q.whole) < UNSEEN ? 'covered' : undefined;
}
