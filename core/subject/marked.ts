/** The labels of marked frames: from strokes alone where a subject begins, corrected later on. */
import { ColourModel, type Colours } from './colour';
import { cutOut, fromEdge, partsWith } from './cut-out';
import { painted, type Stroke } from './strokes';

/** A frame ready to be cut out. */
export interface Ready {
  readonly colours: Colours;
  /** The bin of each pixel's colour. */
  readonly bins: Uint16Array;
}

/** How often colours are learnt anew from the result. */
const ROUNDS = 3;
/**
 * Distance from a stroke on the subject at which a pixel's colour counts less, and by how much at
 * most; distances in shares of the picture's height.
 */
const AWAY = [0.06, 0.4] as const,
  AWAY_SAYS = 3;
/** How much a painted pixel counts beside one that was only found. */
const PAINTED = 8;
/** Weight of what was carried, beside what colours say, where a mark corrects it. */
const TRUST = 2.5;
/** How far from the carried edge a correction may change it, in pixels. */
const NEAR_EDGE = 14;
/** How far around a stroke that contradicts what was carried, in pixels. */
const NEAR_STROKE = 70;

function learnt(
  bins: Uint16Array,
  labels: Uint8Array | undefined,
  strokes: Int8Array,
): ColourModel {
  const model = new ColourModel();
  for (let o = 0; o < bins.length; o++) {
    if (strokes[o] !== 0) model.add(bins[o]!, strokes[o]! > 0, PAINTED);
    else if (labels) model.add(bins[o]!, labels[o] === 1, 1);
  }
  return model;
}
const evidenceBy = (bins: Uint16Array, ratios: Float32Array): Float32Array =>
  Float32Array.from(bins, (b) => ratios[b]!);

/** Cut out by strokes alone. What is connected with no stroke on the subject is not it. */
export function begun({ colours, bins }: Ready, strokes: readonly Stroke[]): Uint8Array {
  const { width, height } = colours,
    known = painted(strokes, width, height);
  if (!known.includes(1)) return new Uint8Array(known.length);
  // Without a stroke on anything else, all that is not painted may be something else.
  const first = known.includes(-1) ? undefined : new Uint8Array(known.length);
  const away = fromEdge(
    known.map((k) => (k > 0 ? 1 : 0)),
    width,
    height,
  ).map((d) => AWAY_SAYS * Math.max(0, Math.min(1, (d / height - AWAY[0]) / (AWAY[1] - AWAY[0]))));
  let ratios = learnt(bins, first, known).ratios(),
    labels: Uint8Array = new Uint8Array(known.length);
  for (let round = 0; round < ROUNDS; round++) {
    labels = partsWith(
      cutOut(
        colours,
        known,
        evidenceBy(bins, ratios).map((e, o) => e - away[o]!),
      ),
      width,
      (o) => known[o] === 1,
    );
    ratios = learnt(bins, labels, known).ratios();
  }
  return labels;
}

/** What was carried to a frame, corrected by strokes. */
export function corrected(
  { colours, bins }: Ready,
  carried: Uint8Array,
  strokes: readonly Stroke[],
): Uint8Array {
  const { width, height } = colours,
    known = painted(strokes, width, height);
  const contradicts = Uint8Array.from(known, (k, o) =>
    (k > 0 && carried[o] === 0) || (k < 0 && carried[o] === 1) ? 1 : 0,
  );
  const edge = fromEdge(carried, width, height);
  const stroke = contradicts.includes(1) ? fromEdge(contradicts, width, height) : undefined;
  const ratios = learnt(bins, carried, known).ratios();
  const evidence = new Float32Array(known.length);
  for (let o = 0; o < known.length; o++) {
    const away = stroke ? stroke[o]! : 1e6,
      said = carried[o] === 1 ? 1 : -1;
    if (known[o] !== 0) continue;
    if (edge[o]! > NEAR_EDGE && away > NEAR_STROKE) known[o] = said;
    // The nearer a stroke that contradicts it, the less counts what was carried.
    else evidence[o] = ratios[bins[o]!]! + TRUST * said * Math.min(1, away / NEAR_STROKE);
  }
  return partsWith(
    cutOut(colours, known, evidence),
    width,
    (o) => known[o] === 1 || carried[o] === 1,
  );
}

/** What the colours of a marked frame say: log-likelihood ratios by bin. */
export const colourRatios = ({ bins }: Ready, labels: Uint8Array): Float32Array =>
  learnt(bins, labels, new Int8Array(bins.length)).ratios();
