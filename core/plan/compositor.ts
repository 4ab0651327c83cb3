/** A look on one frame of one clip: the graph of its layers, from the bedrock up. */
import { inTarget, type InTarget, type PlatePoints, type PointsInFrame, type WholeClip } from '../clip';
import { blend, BLEND_MODES, type BlendId, clear, grounded, place, within } from '../compositing';
import { pointwise, checkpoint, imageOp, type ImageNode, seedOf } from '../graph';
import { blend2, type EncodingId, inDomain } from '../image';
import {
  type DialValues,
  type Layer,
  type LookDocument,
  matteWithCentre,
  ownerOf,
  bindPins,
  type ResolvedLayer,
  type ResolvedMatte,
  resolveLayer,
  type Setting,
  strengthOf,
  withClipColours,
} from '../look';
import { centreOfCover, cleaned, coverOf, type MatteContext, matteOf, type PlacedMatte } from '../mattes';
import { lowerSteps, type FrameContext, stepOf, type Use } from '../steps';

export interface ClipFrame {
  /** The clip in the look frame at the working size, in light. */
  readonly bedrock: ImageNode;
  /** Names the clip's contents, for seeds: never a database id. */
  readonly content: string;
  /** Counted from the clip's first. */
  readonly frame: number;
  /** From the clip's first frame to this one; by default at 25 frames a second. */
  readonly seconds?: number;
  /** How the clip is coded; sRGB where nothing says. */
  readonly encoding?: EncodingId;
  /** The clip's points in the look frame, where it has set any. */
  readonly points?: PointsInFrame;
  /** The whole clip: luma by shares, for keys that count in them; and its mean colour, for what stands out from it. */
  readonly whole?: WholeClip | undefined;
  /** The footage of the clip's pins at this moment, as the bedrock is; where one is not set, the clip itself stands in. */
  readonly footage?: Readonly<Record<string, ImageNode>>;
  /** Of the footage that serves as plates: its own black and white. */
  readonly plates?: Readonly<Record<string, PlatePoints>>;
  /** Where the look's frame lies in the one that is asked for; without, they are the same. */
  readonly framed?: InTarget | undefined;
}

/** Pictures of the frame that is asked for. */
export interface Plan {
  readonly result: ImageNode;
  /** The clip as the look begins with it. */
  readonly bedrock: ImageNode;
  /** What each layer leads to, up to and including itself, by the layer's key. */
  readonly strata: ReadonlyMap<string, ImageNode>;
  /** What each layer's and step's mattes cover, by the layer's key or `layer/step`; one plane. */
  readonly mattes: ReadonlyMap<string, ImageNode>;
}

/** The graph of a look over a clip's frame; `dials` are values other than the look's own (trims, a dial being dragged). */
export function plan(asked: LookDocument, clip: ClipFrame, dials: DialValues = {}): Plan {
  const planned = new Compositor(withClipColours(bindPins(asked, clip.points ?? {}), clip.whole), clip, dials);
  const { look } = planned;
  const below = planned.stack(look.layers, look.bedrock ? clip.bedrock : planned.nothing);
  const placed = (p: ImageNode): ImageNode => inTarget(p, clip.framed);
  const shown = (p: ImageNode): ImageNode => placed(look.fills ? p : within(p, clip.bedrock));
  const all = (pictures: ReadonlyMap<string, ImageNode>, as: (p: ImageNode) => ImageNode) => new Map([...pictures].map(([key, p]) => [key, as(p)]));
  return {
    result: shown(withStrength(clip.bedrock, below, strengthOf(look, dials))),
    bedrock: placed(clip.bedrock),
    strata: all(planned.strata, shown),
    mattes: all(planned.mattes, placed),
  };
}

/** The stacks of one look at one moment: its own, and those of its groups, each made once. */
class Compositor {
  readonly strata = new Map<string, ImageNode>();
  readonly mattes = new Map<string, ImageNode>();
  readonly nothing: ImageNode;
  /** What layers show by themselves, before they are placed and laid down. */
  private readonly pictures = new Map<string, ImageNode>();
  private readonly groups = new Map<string, ImageNode>();

  constructor(
    readonly look: LookDocument,
    private readonly clip: ClipFrame,
    private readonly dials: DialValues,
  ) {
    this.nothing = clear(clip.bedrock.width, clip.bedrock.height);
  }

  stack(layers: readonly Layer[], foot: ImageNode): ImageNode {
    let below = foot;
    for (const written of layers) {
      const layer = resolveLayer(this.look, written, this.dials);
      if (layer.on && layer.opacity > 0) {
        const shown = this.shown(layer, below);
        // A group's own layers and what is laid down are kept, so that a change computes no more than it must.
        const placed = layer.placement ? place(shown, layer.placement, this.measured(written.placement?.['position'])) : shown;
        below = checkpoint(blend(layer.blend, below, placed, layer.opacity));
      }
      this.strata.set(layer.key, below);
    }
    return below;
  }

  /** The middle of a matte that only the picture tells, of this layer or one planned before. */
  private measured(position: Setting | undefined): ImageNode | undefined {
    if (!position || !('centre' in position) || matteWithCentre(this.look, position.centre)) return undefined;
    const cover = this.mattes.get(ownerOf(position.centre));
    return cover && centreOfCover(cover);
  }

  private source({ source, from, blend }: ResolvedLayer, below: ImageNode): ImageNode {
    const { clip } = this;
    switch (source) {
      case 'clip':
        return clip.bedrock;
      case 'below':
        return below;
      case 'fill':
        return this.nothing;
      case 'layer':
        return this.pictures.get(from ?? '') ?? this.nothing;
      case 'group':
        return this.group(from ?? '');
      case 'footage':
        return this.footage(from ?? '', blend);
    }
  }

  private footage(pin: string, blend: BlendId): ImageNode {
    const { footage, plates, bedrock } = this.clip;
    const picture = footage?.[pin] ?? bedrock,
      points = plates?.[pin];
    return points ? grounded(picture, points, BLEND_MODES[blend].neutral) : picture;
  }

  private group(key: string): ImageNode {
    const known = this.groups.get(key);
    if (known) return known;
    // One that leads back to itself finds nothing there.
    this.groups.set(key, this.nothing);
    const made = this.stack(this.look.groups?.find((g) => g.key === key)?.layers ?? [], this.nothing);
    this.groups.set(key, made);
    return made;
  }

  /** A layer's picture: its source through its steps, as far as its mattes cover. */
  private shown(layer: ResolvedLayer, below: ImageNode): ImageNode {
    const { clip, look } = this;
    const { width, height } = clip.bedrock;
    const moment = (use: string): FrameContext => ({
      frame: clip.frame,
      ...(clip.seconds !== undefined && { seconds: clip.seconds }),
      ...(clip.encoding && { encoding: clip.encoding }),
      width,
      height,
      seed: seedOf(look.seed, layer.key, use, clip.content),
      others: { below, clip: clip.bedrock },
    });
    const source = this.source(layer, below);
    const cover = (key: string, mattes: readonly ResolvedMatte[], own: ImageNode): ImageNode | undefined => {
      const at: MatteContext = { ...moment(key), clip: clip.bedrock, below, layer: own, tones: clip.whole?.tones };
      const made = coverOf(this.placed(mattes), at);
      if (made) this.mattes.set(key, made);
      return made && checkpoint(made);
    };
    const uses = layer.steps
      .filter((u) => u.on)
      .map((u): Use => ({
        step: stepOf(u.step)!,
        values: u.values,
        mix: u.mix,
        at: moment(u.key),
        matte: cover(`${layer.key}/${u.key}`, u.mattes, source),
      }));
    let picture = lowerSteps(uses, source);
    const matte = cover(layer.key, layer.mattes, source);
    if (matte) picture = masked(inDomain(cleaned(this.placed(layer.mattes), picture), BLEND_MODES[layer.blend].domain), matte);
    this.pictures.set(layer.key, picture);
    return picture;
  }

  private placed(mattes: readonly ResolvedMatte[]): PlacedMatte[] {
    return mattes.map((m) => {
      const kind = matteOf(m.matte)!,
        from = m.from ?? '';
      return { ...m, kind, named: kind.names === 'pin' ? this.clip.footage?.[from] : this.pictures.get(from) };
    });
  }
}

/** A picture as far as a matte covers. */
function masked(picture: ImageNode, matte: ImageNode): ImageNode {
  return imageOp({
    shape: `masked-${picture.planes}`,
    inputs: [pointwise(picture), pointwise(matte)],
    planes: 4,
    domain: picture.domain,
    build: (at) => {
      const c = at.pixel(0),
        a = at.pixel(1)[0]!;
      return [...c.slice(0, 3).map((x) => x.mul(a)), c[3] ? c[3].mul(a) : a];
    },
  });
}

function withStrength(bedrock: ImageNode, result: ImageNode, strength: number): ImageNode {
  if (strength === 1 || result === bedrock) return result;
  if (strength === 0) return bedrock;
  const a = inDomain(bedrock, 'encoded'),
    b = inDomain(result, 'encoded');
  return imageOp({
    shape: `strength-${a.planes}-${b.planes}`,
    inputs: [pointwise(a), pointwise(b)],
    planes: Math.max(a.planes, b.planes),
    domain: 'encoded',
    params: [strength],
    build: (at) => blend2(at.pixel(0), at.pixel(1), at.param(0)),
  });
}
