/** A look on one frame of one clip: the graph of its layers, from the bedrock up. */
import { blend2, inDomain } from '../image';
import { pinned, type PointsInFrame, resolveLayer, strengthOf, type LookDocument, type DialValues } from '../look';
import { applySteps, type Moment, stepOf } from '../steps';
import { blend, clear } from './blend';
import { each, keep, operation, type Picturing } from './graph';
import { seedOf } from './hash';

export interface ClipMoment {
  /** The clip in the look frame at the working size, in light. */
  readonly bedrock: Picturing;
  /** Names the clip's contents, for seeds: never a database id. */
  readonly content: string;
  /** Counted from the clip's first. */
  readonly frame: number;
  /** The clip's points in the look frame, where it has set any. */
  readonly points?: PointsInFrame;
}

export interface Plan {
  readonly result: Picturing;
  /** What each layer leads to, up to and including itself, by the layer's key. */
  readonly strata: ReadonlyMap<string, Picturing>;
}

/** The graph of a look over a clip's frame; `dials` are values other than the look's own (trims, a dial being dragged). */
export function plan(asked: LookDocument, clip: ClipMoment, dials: DialValues = {}): Plan {
  const look = pinned(asked, clip.points ?? {});
  const { width, height } = clip.bedrock;
  const strata = new Map<string, Picturing>();
  let below: Picturing = look.bedrock ? clip.bedrock : clear(width, height);
  for (const written of look.layers) {
    const layer = resolveLayer(look, written, dials);
    if (layer.on && layer.opacity > 0) {
      let picture = layer.source === 'clip' ? clip.bedrock : layer.source === 'below' ? below : clear(width, height);
      const at = (use: string): Moment => ({ frame: clip.frame, width, height, seed: seedOf(look.seed, layer.key, use, clip.content) });
      const uses = layer.steps.filter((u) => u.on).map((u) => ({ step: stepOf(u.step)!, values: u.values, mix: u.mix, at: at(u.key) }));
      picture = applySteps(uses, picture);
      below = keep(blend(layer.blend, below, picture, layer.opacity));
    }
    strata.set(layer.key, below);
  }
  return { result: withStrength(clip.bedrock, below, strengthOf(look, dials)), strata };
}

function withStrength(bedrock: Picturing, result: Picturing, strength: number): Picturing {
  if (strength === 1 || result === bedrock) return result;
  if (strength === 0) return bedrock;
  const a = inDomain(bedrock, 'encoded'),
    b = inDomain(result, 'encoded');
  return operation({
    shape: `strength-${a.planes}-${b.planes}`,
    inputs: [each(a), each(b)],
    planes: Math.max(a.planes, b.planes),
    domain: 'encoded',
    params: [strength],
    build: (at) => blend2(at.pixel(0), at.pixel(1), at.param(0)),
  });
}
