/**
 * The layers of a look on one frame of a clip as a graph, from the bedrock up, including the other
 * frames it looks at.
 */
import { inBetween } from '../assets';
import {
  blend,
  BLEND_MODES,
  type BlendId,
  clear,
  masked,
  withStrength,
  grounded,
  within,
} from '../compositing';
import { checkpoint, type ImageNode, seedOf } from '../graph';
import { inDomain } from '../image';
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
  strengthAt,
  type Evaluation,
  withClipColours,
} from '../look';
import {
  centreOfCover,
  cleaned,
  coverOf,
  type MatteContext,
  matteOf,
  type PlacedMatte,
} from '../mattes';
import { lowerSteps, stepOf, type Use } from '../steps';
import { copies, matteExposures } from './shutter';
import { type ClipFrame, contextOf, evaluationAfter, type Scene } from './scene';
import { Shot } from './shot';
import { framesSince, travelled } from './travel';
import {
  type FrameIndex,
  framesAround,
  inShotOf,
  isTimeless,
  seedNames,
  sourceFrame,
  sourceMoment,
} from '../time';

/** A layer's position: its stack, and its index there from the bottom. */
interface StackPlace {
  readonly stack: string;
  readonly index: number;
}
/** Name of the look's own stack; groups' stacks have their keys. */
const OWN = '';

/** The same look at another frame of its clip; undefined outside the clip. */
export type Visit = (frame: FrameIndex) => Compositor | undefined;

/**
 * The stacks of one look at one frame: its own and those of its groups. Everything is made on first
 * use, so a frame that another one looks at (a trail's past, a delayed layer) costs only what is
 * used of it.
 */
export class Compositor implements Scene {
  readonly look: LookDocument;
  readonly evaluation: Evaluation;
  readonly strata = new Map<string, ImageNode>();
  readonly mattes = new Map<string, ImageNode>();
  private readonly nothing: ImageNode;
  private readonly shot: Shot;
  private readonly layers: ReadonlyMap<string, StackPlace>;
  private readonly resolved = new Map<string, ResolvedLayer>();
  /** Layers' own pictures, before placement and blending. */
  private readonly pictures = new Map<string, ImageNode>();
  private readonly stacks = new Map<string, ImageNode>();
  private readonly stepInputs = new Map<string, ImageNode | undefined>();
  private readonly underWay = new Set<string>();
  /** Inner looks by the key of the layer that starts from them. */
  private readonly inner = new Map<string, Compositor>();

  constructor(
    private readonly asked: LookDocument,
    readonly clip: ClipFrame,
    readonly dials: DialValues,
    private readonly visit: Visit,
  ) {
    this.look = withClipColours(bindPins(asked, clip.places ?? {}, clip.followed), clip.whole);
    this.nothing = clear(clip.bedrock.width, clip.bedrock.height);
    this.evaluation = evaluationAfter(this);
    this.shot = new Shot(clip, (frame) => this.visit(frame)?.clip, this.nothing);
    this.layers = new Map(
      [{ key: OWN, layers: this.look.layers }, ...(this.look.groups ?? [])].flatMap((g) =>
        g.layers.map((l, index): [string, StackPlace] => [l.key, { stack: g.key, index }]),
      ),
    );
  }

  /** The look's picture at its strength; the bedrock outside its span. */
  picture(): ImageNode {
    const { look, clip } = this;
    const strength = strengthAt(look, this.evaluation);
    const whole = look.span && strength === 0 ? clip.bedrock : this.stack(OWN, look.layers.length);
    return this.contained(withStrength(clip.bedrock, whole, strength));
  }
  /** Confined to the clip's coverage, unless the look fills the frame. */
  contained(picture: ImageNode): ImageNode {
    return this.look.fills ? picture : within(picture, this.clip.bedrock);
  }

  /** The look at another frame; undefined outside the shot. */
  private elsewhere(frame: FrameIndex): Compositor | undefined {
    return this.shot.has(frame) ? this.visit(frame) : undefined;
  }

  private layersOf(stack: string): readonly Layer[] {
    return stack === OWN
      ? this.look.layers
      : (this.look.groups?.find((g) => g.key === stack)?.layers ?? []);
  }

  /** The layer in the document, by its key. */
  private written(key: string): Layer {
    const { stack, index } = this.layers.get(key)!;
    return this.layersOf(stack)[index]!;
  }

  /** The picture of the lowest `count` layers of a stack. */
  private stack(key: string, count: number): ImageNode {
    if (count === 0) return key === OWN && this.look.bedrock ? this.clip.bedrock : this.nothing;
    const name = `${key}:${count}`;
    const known = this.stacks.get(name);
    if (known) return known;
    let below = this.stack(key, count - 1);
    const written = this.layersOf(key)[count - 1]!;
    const layer = this.layer(written);
    if (layer.on && layer.opacity > 0) {
      const shown = this.shown(layer, below);
      // Group layers and blended results are kept, so that a change recomputes as little as
      // possible.
      const placed = layer.placement
        ? copies(
            this,
            written,
            layer.placement,
            shown,
            this.measured(written.placement?.['position']),
          )
        : shown;
      below = checkpoint(blend(layer.blend, below, placed, layer.opacity));
    }
    this.strata.set(layer.key, below);
    this.stacks.set(name, below);
    return below;
  }

  private layer(written: Layer): ResolvedLayer {
    const known = this.resolved.get(written.key);
    if (known) return known;
    const made = resolveLayer(this.look, written, this.evaluation);
    this.resolved.set(written.key, made);
    return made;
  }

  /**
   * The centre of a matte that is measured in the picture, if its owner is this layer or planned
   * before.
   */
  private measured(position: Setting | undefined): ImageNode | undefined {
    if (!position || !('centre' in position) || matteWithCentre(this.look, position.centre))
      return undefined;
    const cover = this.mattes.get(ownerOf(position.centre));
    return cover && centreOfCover(cover);
  }

  /** What a layer starts from at this frame, without its own time. */
  private source({ key, source, from, blend }: ResolvedLayer, below?: ImageNode): ImageNode {
    switch (source) {
      case 'clip':
        return this.clip.bedrock;
      case 'shot':
      case 'recorded':
        return this.clip.before?.(source) ?? this.clip.bedrock;
      case 'below':
        return below ?? this.belowOf(key);
      case 'fill':
        return this.nothing;
      case 'layer':
        return this.pictureOf(from ?? '', key) ?? this.nothing;
      case 'group':
        return this.group(from ?? '');
      case 'footage':
        return this.footage(from ?? '', blend);
      case 'look':
        return this.once(`look ${key}`, () => this.innerOf(key, below)?.picture()) ?? this.nothing;
    }
  }

  /**
   * The look that a layer starts from, on the clip or on what lies below; undefined if it does not
   * exist at another frame.
   */
  private innerOf(key: string, below?: ImageNode): Compositor | undefined {
    const known = this.inner.get(key);
    if (known) return known;
    const { from, dials, over } = this.layer(this.written(key));
    const look = this.look.looks?.find((l) => l.key === from)?.document;
    if (!look) return undefined;
    const clip =
      over === 'below' ? { ...this.clip, bedrock: below ?? this.belowOf(key) } : this.clip;
    const made = new Compositor(look, clip, dials, (frame) => this.elsewhere(frame)?.innerOf(key));
    this.inner.set(key, made);
    return made;
  }

  private belowOf(key: string): ImageNode {
    const { stack, index } = this.layers.get(key)!;
    return this.stack(stack, index);
  }

  /** What a layer starts from, at the moment that its layer time says. */
  private timed(layer: ResolvedLayer, below?: ImageNode): ImageNode {
    if (!layer.time || isTimeless(layer.time)) return this.source(layer, below);
    const { look, clip, evaluation } = this;
    const written = this.written(layer.key);
    const seed = seedOf(look.seed, layer.key, 'time', ...seedNames(clip.content, clip.time)),
      from = evaluation.frameOf(written.timeFrom);
    const counted = [
      layer.time,
      clip.frame,
      clip.time,
      from,
      seed,
      travelled(this, written, from),
    ] as const;
    const how = layer.time['between'];
    if (how !== 'nearest' && layer.source === 'clip') {
      const { first, second, share } = framesAround(
        sourceMoment(...counted),
        layer.time,
        clip.time,
      );
      return share === 0
        ? this.shot.picture(first)
        : this.shot.between(first, second, share, how === 'motion');
    }
    let frame = sourceFrame(...counted);
    // A held picture from before the shot is replaced by the shot's first.
    const held = layer.time['cadence'] !== 'none' || layer.time['beyond'] === 'hold';
    if (held && frame >= 0 && frame < clip.time.frames)
      frame = inShotOf(clip.time, clip.frame, frame);
    if (frame === clip.frame) return this.source(layer, below);
    // Outside the shot there are only spare frames.
    return this.elsewhere(frame)?.source(layer) ?? this.nothing;
  }

  private footage(pin: string, blend: BlendId): ImageNode {
    const { footage, plates, bedrock } = this.clip;
    const picture = footage?.[pin] ?? bedrock,
      points = plates?.[pin];
    return points ? grounded(picture, points, BLEND_MODES[blend].neutral) : picture;
  }

  private group(key: string): ImageNode {
    // A layer that depends on itself finds nothing there.
    return (
      this.once(`group ${key}`, () => this.stack(key, this.layersOf(key).length)) ?? this.nothing
    );
  }

  /** Another layer's picture, if it is planned before `of`; all layers below `of` are. */
  private pictureOf(key: string, of: string): ImageNode | undefined {
    const known = this.pictures.get(key);
    const there = this.layers.get(key),
      here = this.layers.get(of);
    if (known || !there || !here) return known;
    this.once(`below ${of}`, () => this.stack(here.stack, here.index));
    const made = this.pictures.get(key);
    if (made || there.stack !== here.stack || there.index >= here.index) return made;
    // A layer with no opacity can be looked at all the same.
    const layer = this.layer(this.written(key));
    return layer.on ? this.shown(layer, this.stack(there.stack, there.index)) : undefined;
  }

  /** Runs `make` once; undefined if it depends on itself. */
  private once(name: string, make: () => ImageNode | undefined): ImageNode | undefined {
    if (this.underWay.has(name)) return undefined;
    this.underWay.add(name);
    try {
      return make();
    } finally {
      this.underWay.delete(name);
    }
  }

  /** The active steps of a layer, up to one of them (default: all). */
  private uses(layer: ResolvedLayer, source: ImageNode, below: ImageNode, until?: string): Use[] {
    const on = layer.steps.filter((u) => u.on);
    const end = until === undefined ? on.length : on.findIndex((u) => u.key === until);
    return on.slice(0, end).map((u): Use => ({
      step: stepOf(u.step)!,
      values: u.values,
      mix: u.mix,
      at: contextOf(this, layer.key, u.key, below, {
        earlier: (frames) =>
          frames === 0
            ? this.stepInput(layer.key, u.key)
            : this.elsewhere(this.clip.frame - frames)?.stepInput(layer.key, u.key),
        motion: (frames) => this.shot.onward(this.clip.frame - frames),
        instantBefore: (share) => this.instantBefore(layer.key, u.key, share),
        framesSince: this.clip.time.way
          ? (lines, from = 0) => framesSince(this.clip, lines, from)
          : undefined,
        layerNamed: u.from === undefined ? undefined : () => this.pictureOf(u.from!, layer.key),
      }),
      matte: this.cover(layer, u.key, `${layer.key}/${u.key}`, u.mattes, source, below),
    }));
  }

  /** The input of a step between the previous frame and this one. */
  private instantBefore(layer: string, step: string, share: number): ImageNode | undefined {
    const before = this.elsewhere(this.clip.frame - 1),
      motion = before?.clip.part?.('motion')?.between?.(share);
    const [first, second] = motion
      ? [before!.stepInput(layer, step), this.stepInput(layer, step)]
      : [];
    return (
      first && second && checkpoint(inBetween(first, inDomain(second, first.domain), motion, share))
    );
  }

  /** The input of a step at this frame; undefined while its layer does not act. */
  private stepInput(key: string, step: string): ImageNode | undefined {
    const name = `${key}/${step}`;
    if (this.stepInputs.has(name)) return this.stepInputs.get(name);
    const lie = this.layers.get(key)!;
    const layer = this.layer(this.written(key));
    const given = (): ImageNode => {
      const below = this.stack(lie.stack, lie.index),
        source = this.timed(layer, below);
      return lowerSteps(this.uses(layer, source, below, step), source);
    };
    const made = layer.on ? given() : undefined;
    this.stepInputs.set(name, made);
    return made;
  }

  private cover(
    layer: ResolvedLayer,
    use: string,
    key: string,
    mattes: readonly ResolvedMatte[],
    own: ImageNode,
    below: ImageNode,
  ): ImageNode | undefined {
    if (mattes.length === 0) return undefined;
    const at: MatteContext = {
      ...contextOf(this, layer.key, key, below),
      clip: this.clip.bedrock,
      below,
      layer: own,
      tones: this.clip.whole?.tones,
    };
    const made = coverOf(this.placed(mattes, layer.key, key), at);
    if (made) this.mattes.set(key, made);
    return made && checkpoint(made);
  }

  /** A layer's own picture: its source through its steps, masked by its mattes. */
  private shown(layer: ResolvedLayer, below: ImageNode): ImageNode {
    const source = this.timed(layer, below);
    let picture = lowerSteps(this.uses(layer, source, below), source);
    const matte = this.cover(layer, layer.key, layer.key, layer.mattes, source, below);
    if (matte)
      picture = masked(
        inDomain(
          cleaned(this.placed(layer.mattes, layer.key), picture),
          BLEND_MODES[layer.blend].domain,
        ),
        matte,
      );
    this.pictures.set(layer.key, picture);
    return picture;
  }

  /** Mattes with the pictures they look at. `owner`: path of their layer or step. */
  private placed(mattes: readonly ResolvedMatte[], of: string, owner?: string): PlacedMatte[] {
    return mattes.map((m, index) => {
      const kind = matteOf(m.matte)!,
        from = m.from ?? '';
      return {
        ...m,
        kind,
        exposures:
          owner === undefined
            ? undefined
            : matteExposures(this, (key) => this.written(key), m, index, owner),
        named: kind.names === 'pin' ? this.clip.footage?.[from] : this.pictureOf(from, of),
      };
    });
  }
}
