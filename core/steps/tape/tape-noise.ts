import { pointwise, imageOp, type ImageNode } from '../../graph';
import { powd, Remembered } from '../../kernel';
import { choice, optionsFrom, number } from '../../parameters';
import {
  butterworth,
  carrierNoise,
  filterOf,
  type GradeId,
  GRADES,
  type LineFilter,
  lumaGain,
  unitVariance,
} from '../../tape';
import { builtStep } from '../declare';
import { seedIn, whiteNoise } from './by-row';
import { worked } from './raster';
import { downRows, filtered } from './raster-lines';
import { ROW_NOISE_LEFT } from './raster-ways';

const REACH = 16;
/** Colour noise is of low frequency: below this share of its band, and spread over several rows. */
const BLOTCHY = 0.45;
const DOWN = [-2, -1, 0, 1, 2].map((above) => [above, 1 / 5] as const);

interface NoiseWeights {
  readonly luma: LineFilter;
  readonly chroma: LineFilter;
}
const known = new Remembered<NoiseWeights>(16);
/**
 * Filter weights of a grade's luma and colour noise; white noise of variance 1 gives variance 1.
 */
export const noiseWeights = (id: GradeId): NoiseWeights => known.of(id, () => weightsOf(id));
function weightsOf(id: GradeId): NoiseWeights {
  const { luma, chroma, deEmphasis } = GRADES[id];
  // The mean of five rows has a fifth of the variance.
  const low = unitVariance(
    filterOf({ gain: butterworth(chroma.width * BLOTCHY, chroma.order) }, 32, 4),
  );
  return {
    luma: unitVariance(
      filterOf(
        { gain: carrierNoise(deEmphasis, lumaGain(luma.width, luma.order, luma.peak)) },
        REACH,
      ),
    ),
    chroma: { ...low, weights: low.weights.map((w) => w * Math.sqrt(5)) },
  };
}

/** Noise of the tape. */
export const tapeNoise = builtStep({
  id: 'tape-noise',
  family: 'tape',
  label: 'Tape noise',
  help: 'Noise of a demodulated carrier in luma, fine and lively; blotches in colour.',
  domain: 'encoded',
  start: { luma: 100, colour: 100 },
  parameters: [
    choice(
      'grade',
      'Grade',
      optionsFrom(GRADES, (g) => g.name),
      'home',
    ),
    number('luma', 'Luma', '%', 0, 1000, 0, {
      soft: [0, 300],
      help: '100 is the grade’s ratio of signal to noise.',
    }),
    number('colour', 'Colour', '%', 0, 1000, 0, { soft: [0, 300] }),
  ],
  build: (input, v, at) => {
    const [luma, colour] = [v.luma / 100, v.colour / 100];
    if (luma === 0 && colour === 0) return input;
    const grade = GRADES[v.grade],
      weights = noiseWeights(v.grade);
    const sigma = (dB: number): number => powd(10, -dB / 20);
    return worked(input, (raster, generation) => {
      const along = filtered(whiteNoise(raster, seedIn(at, generation), at.frame), [
        weights.luma,
        weights.chroma,
        weights.chroma,
      ]);
      const noise = downRows(along, 'blotches', [null, DOWN, DOWN]);
      return noisy(
        raster,
        noise,
        (luma * sigma(grade.lumaNoise)) / ROW_NOISE_LEFT,
        colour * sigma(grade.chromaNoise),
      );
    });
  },
});

const noisy = (raster: ImageNode, noise: ImageNode, luma: number, colour: number): ImageNode =>
  imageOp({
    shape: 'tape-noise',
    inputs: [pointwise(raster), pointwise(noise)],
    planes: 3,
    domain: 'none',
    params: [luma, colour],
    build: (b) => b.pixel(0).map((x, p) => x.add(b.pixel(1)[p]!.mul(b.param(p === 0 ? 0 : 1)))),
  });
