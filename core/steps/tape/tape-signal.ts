import { pointwise, imageOp, type ImageNode } from '../../graph';
import {
  column,
  cosTurns,
  float,
  iand,
  ishr,
  type Node,
  type Pixel,
  Remembered,
  row,
  select,
  sinTurns,
  toFloat,
} from '../../kernel';
import { choice, flag, number, optionsFrom, type ValuesOf } from '../../parameters';
import {
  butterworth,
  filterOf,
  type Grade,
  GRADES,
  type LineFilter,
  lumaGain,
  type SystemId,
  SYSTEMS,
  trailing,
} from '../../tape';
import { builtStep, FrameContext } from '../declare';
import { rowNoise, rowNoiseBelow, seedIn } from './by-row';
import { type Fields, worked } from './raster';
import { AS_IT_IS, downRows, filtered, onRaster } from './raster-lines';
import { oneField } from './raster-ways';
import { inDomain } from '../../image';

const LUMA_REACH = 14,
  CHROMA_REACHES = [20, 32, 48, 64] as const;
/**
 * Reach of colour's filter: until its pulse response has decayed to some thousandths, as far as one
 * is offered.
 */
const chromaReach = (width: number): number => CHROMA_REACHES.find((r) => r * width >= 18) ?? 64;

const FIELDS = {
  weave: 'as one frame',
  twitter: 'against twitter',
  motion: 'half a frame apart',
  own: 'of two frames',
  bob: 'one alone',
  pulldown: '2:3',
};
const PARAMETERS = [
  choice(
    'grade',
    'Grade',
    optionsFrom(GRADES, (g) => g.name),
    'home',
  ),
  choice('system', 'System', { '625': '625 lines', '525': '525 lines' }, '625'),
  number('width', 'Luma width', '%', 20, 200, 100, {
    soft: [40, 150],
    help: 'Of the grade’s bandwidth.',
  }),
  number('colour-width', 'Colour width', '%', 20, 200, 100, { soft: [40, 150] }),
  number('sharpening', 'Sharpening', '%', 0, 400, 100, {
    soft: [0, 250],
    help: 'Of the grade’s own: edges ring.',
  }),
  number('delay', 'Colour delay', 'ns', -800, 1600, 0, {
    soft: [-200, 600],
    help: 'More than the grade has.',
  }),
  number('bleed', 'Bleed', '%', 0, 400, 100, {
    soft: [0, 250],
    help: 'Colour that trails to the right, of the grade’s own.',
  }),
  number('saturation', 'Saturation', '%', 0, 200, 100, { soft: [40, 140] }),
  number('hue', 'Hue wanders', '°', 0, 90, 4, {
    soft: [0, 30],
    help: 'On 525 lines; on 625 it costs colour and pairs lines.',
  }),
  number('burst', 'Burst lost', '%', 0, 100, 0, {
    soft: [0, 40],
    help: 'Share of the lines that have no colour.',
  }),
  number('set-up', 'Set-up', '%', 0, 20, 0, { soft: [0, 8], help: 'How far black is lifted.' }),
  number('clip', 'White clip', '%', 80, 140, 100, { help: 'Of the grade’s own.' }),
  choice('fields', 'Fields', FIELDS, 'weave', {
    help: 'What both fields of a frame show: the frame itself; its rows averaged by ¼, ½, ¼; the first as things stood half a frame before, made from motion. Of footage at the rate of fields (40 frames a second or more): each of two frames, or this frame’s field alone. Of film on 525 lines: 2:3.',
  }),
  flag('composite', 'Composite', false, {
    help: 'Colour goes over its carrier: dots crawl, fine patterns turn to rainbows.',
  }),
] as const;
/** How a tape's signal is recorded. */
export type SignalValues = ValuesOf<typeof PARAMETERS>;

interface Signal {
  readonly grade: Grade;
  readonly luma: LineFilter;
  readonly chroma: LineFilter;
}
const known = new Remembered<Signal>(16);
/** The filters of a grade with a step's values, from a small cache. */
export function signalOf(v: SignalValues): Signal {
  const [id, wide, colourWide, peak, delay, bleed] = [
    v.grade,
    v.width,
    v['colour-width'],
    v.sharpening,
    v.delay,
    v.bleed,
  ] as const;
  const key = [id, wide, colourWide, peak, delay, bleed].join(',');
  return known.of(key, () => {
    const grade = GRADES[id];
    const luma = filterOf(
      {
        gain: lumaGain(
          (grade.luma.width * wide) / 100,
          grade.luma.order,
          (grade.luma.peak * peak) / 100,
        ),
      },
      LUMA_REACH,
    );
    const phase = trailing((grade.delay + delay) / 1000, (grade.bleed * bleed) / 1e5);
    const width = (grade.chroma.width * colourWide) / 100;
    const reach = chromaReach(width);
    // Long filters take every fourth sample of an averaged line: a third of the work.
    const chroma = filterOf(
      { gain: butterworth(width, grade.chroma.order), phase },
      reach,
      reach > 20 ? 4 : 1,
    );
    return { grade, luma, chroma };
  });
}

/**
 * Colour moves down by a row for each row that the grade averages: weights ¼, ½, ¼ about the row
 * above.
 */
const LOWER = [
  [0, 0.25],
  [1, 0.5],
  [2, 0.25],
] as const;

/** Rows averaged so that no detail is as fine as one row of a field. */
const TWITTER = [
  [-1, 0.25],
  [0, 0.5],
  [1, 0.25],
] as const;

/**
 * Subcarrier phase in turns at a sample of a row, as BT.1700 defines it, over a sequence of two
 * frames (525) or four (625).
 */
function carrierPhase(system: SystemId, frame: Node): Node {
  const { cycles } = SYSTEMS[system];
  const lineSamples = system === '625' ? 864 : 858;
  // Rows alternate between the two fields; a field is half a frame of lines later.
  const lines = system === '625' ? 625 : 525;
  const inField = ishr(row(), 1),
    field = iand(row(), 1);
  const line = toFloat(inField).add(toFloat(field).mul((lines + 1) / 2));
  const whole = (perLine: number): number => perLine - Math.floor(perLine);
  const perFrame = whole(cycles * lines);
  return toFloat(column())
    .mul(cycles / lineSamples)
    .add(line.mul(whole(cycles)))
    .add(frame.mul(perFrame));
}

const lowPass = new Remembered<LineFilter>(4);
/**
 * Modulates colour onto its carrier and demodulates it. Luma near the carrier becomes colour
 * (rainbows); colour that changes along a line becomes luma (crawling dots).
 */
function composite(raster: ImageNode, system: SystemId, frame: number): ImageNode {
  const alternates = SYSTEMS[system].alternates;
  const turned = (
    build: (c: Pixel, sin: Node, cos: Node) => Pixel,
    from: ImageNode,
    name: string,
  ): ImageNode =>
    imageOp({
      shape: `composite-${name}-${system}`,
      inputs: [pointwise(from)],
      planes: 3,
      domain: 'none',
      params: [frame % 8],
      build: (b) => {
        const phase = carrierPhase(system, b.param(0));
        const turn = phase.sub(phase.floor());
        // With 625 lines the red difference alternates its sign with every line of a field.
        const side = alternates
          ? select(toFloat(iand(ishr(row(), 1), 1)).lt(0.5), 1, -1)
          : float(1);
        return build(b.pixel(0), sinTurns(turn), cosTurns(turn).mul(side));
      },
    });
  // The composite signal, and its products with both carriers, as a decoder forms them.
  const mixed = turned(
    ([y, u, w], sin, cos) => {
      const signal = y!.add(u!.mul(sin)).add(w!.mul(cos));
      return [signal, signal.mul(sin).mul(2), signal.mul(cos).mul(2)];
    },
    raster,
    'on',
  );
  const width = system === '625' ? 1.3 : 1.1;
  const low = lowPass.of(system, () => filterOf({ gain: butterworth(width, 3) }, 16));
  const decoded = filtered(mixed, [AS_IT_IS, low, low]);
  // Luma is the signal minus what was decoded as colour.
  return turned(
    ([signal, u, w], sin, cos) => [signal!.sub(u!.mul(sin)).sub(w!.mul(cos)), u!, w!],
    decoded,
    'off',
  );
}

/**
 * Hue that wanders from line to line (525), or the loss of colour and the pairs of lines that
 * result (625).
 */
function wandered(
  raster: ImageNode,
  system: SystemId,
  degrees: number,
  seed: number,
  frame: number,
): ImageNode {
  const alternates = SYSTEMS[system].alternates;
  return onRaster(
    raster,
    `hue-wander-${system}`,
    [degrees / 360],
    [seed, frame],
    ([y, u, w], b) => {
      const frames = b.int(1);
      const slow = rowNoise(float(90), b.int(0)).mul(0.6);
      const quick = rowNoise(float(7), frames).mul(0.4);
      const turn = slow.add(quick).mul(b.param(0));
      const [sin, cos] = [sinTurns(turn), cosTurns(turn)];
      if (!alternates) return [y!, u!.mul(cos).sub(w!.mul(sin)), u!.mul(sin).add(w!.mul(cos))];
      const side = select(toFloat(iand(ishr(row(), 1), 1)).lt(0.5), 0.25, -0.25);
      return [y!, u!.sub(w!.mul(sin).mul(side)).mul(cos), w!.add(u!.mul(sin).mul(side)).mul(cos)];
    },
  );
}

/**
 * Set-up, soft clipping of white, and colour lost where the burst is lost (the colour killer acts
 * line by line).
 */
function levelled(
  raster: ImageNode,
  v: SignalValues,
  white: number,
  seed: number,
  frame: number,
): ImageNode {
  return onRaster(
    raster,
    'tape-levels',
    [v['set-up'] / 100, white, v.saturation / 100, rowNoiseBelow(v.burst / 100)],
    [seed, frame],
    ([y, u, w], b) => {
      const lifted = y!.mul(float(1).sub(b.param(0))).add(b.param(0));
      // Straight up to nine tenths of the clipping level, then bent towards it.
      const knee = b.param(1).mul(0.9),
        over = lifted.sub(knee).max(0),
        room = b.param(1).sub(knee);
      const held = lifted.min(knee).add(over.mul(room).div(over.add(room)));
      const killed = rowNoise(float(24), b.int(1)).lt(b.param(3));
      const colour = select(killed, 0, b.param(2));
      return [held, u!.mul(colour), w!.mul(colour)];
    },
  );
}

/** Rates from here on (frames per second) count as field rates. */
const FIELD_RATE = 40;
const isFieldRate = ({ rate }: FrameContext): boolean => rate[0] / rate[1] >= FIELD_RATE;
/**
 * At field rates a frame is shown as the first field of a tape's frame, the next one as the second.
 */
const isFirst = (at: FrameContext): boolean => at.frame % 2 === 0;

/**
 * Four frames of film on the ten fields of five frames of video, two and three in turn: the film
 * frame of each field. The clip's frame at that time stands for the film frame; every fifth one is
 * never seen.
 */
const FILM_OF_FIELD = [0, 0, 1, 1, 1, 2, 2, 3, 3, 3];
const isFilm = ({ rate }: FrameContext): boolean => Math.abs(rate[0] / rate[1] - 24) < 0.5;

/** The contents of the two fields, if they come from different frames. */
function fieldsOf(
  input: ImageNode,
  v: SignalValues,
  system: SystemId,
  at: FrameContext,
): Fields | undefined {
  const before = (): ImageNode | undefined => {
    const picture = at.earlier?.(1);
    return picture && inDomain(picture, 'encoded');
  };
  if (v.fields === 'motion') {
    const half = at.instantBefore?.(0.5);
    return half && [half, input];
  }
  if (v.fields === 'own' && isFieldRate(at)) {
    const other = before();
    return other && (isFirst(at) ? [input, other] : [other, input]);
  }
  if (v.fields === 'pulldown' && system === '525' && isFilm(at)) {
    const film = at.frame % 4,
      field = 2 * film;
    const shows = (f: number) => FILM_OF_FIELD[f]! === film;
    if (shows(field) && shows(field + 1)) return undefined;
    const other = before();
    return other && [shows(field) ? input : other, shows(field + 1) ? input : other];
  }
  return undefined;
}
/** A frame's rows as its fields show them, if both come from one frame. */
function asFields(
  raster: ImageNode,
  v: SignalValues,
  system: SystemId,
  at: FrameContext,
): ImageNode {
  if (v.fields === 'twitter') return downRows(raster, 'twitter', [TWITTER, TWITTER, TWITTER]);
  return v.fields === 'bob' && isFieldRate(at) ? oneField(raster, isFirst(at), system) : raster;
}

/** The recorded signal of a tape. */
export const tapeSignal = builtStep({
  id: 'tape-signal',
  family: 'tape',
  label: 'Tape signal',
  help: 'The picture as a tape keeps it: luma and colour of its grade’s bandwidth, on a line system’s raster. Tape steps directly above work there.',
  domain: 'encoded',
  alwaysActs: true,
  jumps: true,
  uses: { motion: { id: 'fields', at: 'motion' } },
  looksBack: { id: 'fields', at: ['own', 'pulldown'] },
  parameters: PARAMETERS,
  build: (input, v, at) => {
    const system = v.system;
    const signal = signalOf(v);
    const work = (raster: ImageNode, generation: number): ImageNode => {
      const seed = seedIn(at, generation);
      let now = generation === 1 ? asFields(raster, v, system, at) : raster;
      if (v.composite) now = composite(now, system, at.frame + generation);
      if (v.hue > 0) now = wandered(now, system, v.hue, seed, seedOfFrame(seed, at));
      now = filtered(now, [signal.luma, signal.chroma, signal.chroma]);
      if (signal.grade.rows > 0) now = downRows(now, 'lower', [null, LOWER, LOWER]);
      return levelled(now, v, (signal.grade.white * v.clip) / 100, seed, seedOfFrame(seed, at));
    };
    return worked(input, work, system, fieldsOf(input, v, system, at));
  },
});
const seedOfFrame = (seed: number, at: FrameContext): number =>
  (seed ^ Math.imul(at.frame + 1, 0x9e3779b1)) | 0;
