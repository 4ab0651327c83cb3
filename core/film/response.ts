/**
 * The response of film to light, in double precision: layer exposures → densities of the developed
 * film → print exposure → densities of the print → light on the screen. Kernels use tables of these
 * functions, and tests hold them to the functions.
 */
import { bend, LOG10_2, log10d, negativeDensity, pow10d, reversalDensity, Sampled } from './curve';
import type { Curve, PrintStock, Rows, Stock, Three } from './stock';

/** Red, green and blue, or one number per layer. */
export type Triple = [number, number, number];

/** How a stock is processed. */
export interface Processing {
  /** Stops of push; below 0, of pull. */
  readonly push: number;
  /** Developed in the chemistry of the other kind (negative or reversal). */
  readonly cross: boolean;
  /** Share of the silver left beside the dyes, in the film and in its print. */
  readonly silver: number;
  readonly silverPrint: number;
  /**
   * Printer lights in points of 0.025 log₁₀ exposure; a higher value gives less of that colour in
   * the print.
   */
  readonly points: Three;
  /** Gamma of the print stock, relative to its own. */
  readonly printContrast: number;
  readonly years: number;
  /** Stray light of the projector, as a share of white. */
  readonly flare: number;
  /** The projector's white, as linear RGB. */
  readonly white: Three;
}
/** A stock processed as its maker intends. */
export const AS_MADE: Processing = {
  push: 0,
  cross: false,
  silver: 0,
  silverPrint: 0,
  points: [0, 0, 0],
  printContrast: 1,
  years: 0,
  flare: 0,
  white: [1, 1, 1],
};

const CHANNELS = [0, 1, 2] as const;
const times = (m: Rows, v: Three): Triple =>
  CHANNELS.map((i) => m[i][0] * v[0] + m[i][1] * v[1] + m[i][2] * v[2]) as Triple;
const RANGE = [-5.5, 5.5, 1101] as const;

/** A curve pushed by `stops`: steeper, faster, with more fog. */
export const pushed = (c: Curve, { push }: Pick<Stock, 'push'>, stops: number): Curve => ({
  ...c,
  base: c.base + Math.max(0, push.fog * stops),
  gamma: c.gamma * (1 + push.gamma * stops),
  // Speed is defined where density begins (for reversal film, where it ends).
  start: c.start - push.speed * stops * LOG10_2,
});

/** Densities above the base of a neutral exposure, as printed or as viewed. */
function scaleOf(
  curves: readonly [Curve, Curve, Curve],
  kind: Stock['kind'],
  matrix: Rows,
  x: number,
): Triple {
  const density = kind === 'negative' ? negativeDensity : reversalDensity;
  return times(matrix, CHANNELS.map((c) => density(curves[c], x) - curves[c].base) as Triple);
}

type Scale = readonly [Sampled, Sampled, Sampled];
const scales = new WeakMap<Stock, Scale>();
/**
 * The neutral scale of a stock in its own chemistry, computed once: it gives the meaning of each
 * layer's density.
 */
function neutralScale(stock: Stock): Scale {
  let made = scales.get(stock);
  if (!made) {
    const [from, to, count] = RANGE,
      step = (to - from) / (count - 1);
    const all = Array.from({ length: count }, (_, i) =>
      scaleOf(stock.curves, stock.kind, stock.interlayer, from + i * step),
    );
    made = CHANNELS.map(
      (c) =>
        new Sampled(
          from,
          step,
          all.map((d) => d[c]),
        ),
    ) as unknown as Scale;
    scales.set(stock, made);
  }
  return made;
}

/** A stock with its processing: the functions that kernels have as tables. */
export class Film {
  /** Whether there is a print: for negatives, and for reversal film developed as one. */
  readonly printed: boolean;
  readonly curves: readonly [Curve, Curve, Curve];
  /**
   * From densities above the base to densities as printed or viewed: interlayer effects, then
   * silver.
   */
  readonly matrix: Rows;
  /** From dyes above the base to densities of the viewed image, with silver and fading. */
  readonly viewed: Rows;
  readonly stain: Triple;
  private readonly neutral: Scale;
  private readonly reference: Sampled;
  private readonly timing: Triple;
  private readonly balance: Triple;

  constructor(
    readonly stock: Stock,
    readonly print: PrintStock,
    readonly how: Processing = AS_MADE,
  ) {
    const developed = (how.cross ? stock.cross : stock.curves).map((c) =>
      pushed(c, stock, how.push),
    );
    this.curves = developed as unknown as readonly [Curve, Curve, Curve];
    this.printed = (stock.kind === 'negative') !== how.cross;
    this.matrix = withSilver(stock.interlayer, how.silver);
    const dyes = this.printed ? print : stock;
    const lost = (years: number, of: Stock['fading']): Triple =>
      CHANNELS.map((i) => pow10d((log10d(1 - of.loss[i]) * years) / 10)) as Triple;
    const years = this.printed ? how.years : how.years + stock.age;
    const left = lost(years, dyes.fading);
    const faded = dyes.dyes.map((row) => row.map((v, i) => v * left[i]!)) as unknown as Rows;
    this.viewed = withSilver(faded, this.printed ? how.silverPrint : 0, dyes.dyes);
    this.stain = dyes.fading.stain.map((s) => (s * years) / 10) as Triple;

    this.neutral = neutralScale(stock);
    this.reference = this.neutral[1];

    // Prints are timed so that an 18 % grey at the rated speed gives the print stock's grey,
    // whatever was done to the film. In its own chemistry a stock needs the same light for all
    // three layers.
    const grey = scaleOf(this.curves, this.printed ? 'negative' : 'reversal', this.matrix, 0);
    const wanted = -log10d(print.grey);
    this.timing = CHANNELS.map(
      (c) => this.printExposureFor(c, wanted) + this.seen(c, grey[c]),
    ) as Triple;
    // Film viewed directly is balanced at grey when developed in another chemistry; nothing else
    // would do it.
    this.balance =
      how.cross && !this.printed
        ? (CHANNELS.map((c) => wanted - this.seen(c, grey[c])) as Triple)
        : [0, 0, 0];
  }

  /**
   * Density above the base of a layer at a linear exposure (0.18 is mid grey at the rated speed).
   */
  developed(layer: 0 | 1 | 2, exposure: number): number {
    const c = this.curves[layer];
    const x = log10d(Math.max(exposure, 1e-7) / 0.18);
    return (this.printed ? negativeDensity : reversalDensity)(c, x) - c.base;
  }

  /**
   * The density that a layer's density stands for on the neutral scale, plus the stock's own
   * deviation from neutral.
   */
  private seen(c: 0 | 1 | 2, density: number): number {
    if (this.how.cross) return density;
    const [scale, reference] = [this.neutral[c], this.reference];
    const x = scale.inverse(density);
    // Beyond the range of the neutral scale the difference stays constant.
    const onScale = reference.at(x) + (density - scale.at(x));
    return onScale + crossing(this.stock.crossover, onScale, c);
  }

  private printCurve(c: 0 | 1 | 2): Curve {
    const { how, print } = this;
    return { ...print.curves[c], gamma: print.curves[c].gamma * how.printContrast };
  }
  /** The print exposure (log₁₀) that gives a density above the print's base. */
  private printExposureFor(c: 0 | 1 | 2, density: number): number {
    const curve = this.printCurve(c);
    let low = -4,
      high = 4;
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2;
      if (negativeDensity(curve, middle) - curve.base < density) low = middle;
      else high = middle;
    }
    return low;
  }

  /**
   * Density above the base of the viewed image's dye, from the film's density as printed or viewed.
   */
  dye(c: 0 | 1 | 2, density: number): number {
    const { how } = this;
    const seen = this.seen(c, density);
    if (!this.printed) return bend(seen + this.balance[c] + how.points[c] * 0.025, 0.004);
    const curve = this.printCurve(c);
    return negativeDensity(curve, this.timing[c] - seen + how.points[c] * 0.025) - curve.base;
  }

  /**
   * Light of a channel on the screen (white is 1) from the viewed image's density above its base.
   */
  light(c: 0 | 1 | 2, density: number): number {
    const { flare, white } = this.how;
    return (white[c] * (pow10d(-density) + flare)) / (1 + flare);
  }

  /**
   * Each layer's response to linear red, green and blue. Monochrome film has three equal rows,
   * behind the filter.
   */
  sensitivities(filter = 'none'): Rows {
    const row = this.stock.filters?.[filter];
    return row ? [row, row, row] : this.stock.sensitivity;
  }
  /** Layer exposures for linear RGB light. */
  exposures(light: Three, filter?: string): Triple {
    return times(this.sensitivities(filter), light);
  }

  /** The whole chain: light on the screen from layer exposures. */
  through(exposures: Three): Triple {
    const printed = times(
      this.matrix,
      CHANNELS.map((c) => this.developed(c, exposures[c])) as Triple,
    );
    const dyes = CHANNELS.map((c) => this.dye(c, printed[c])) as Triple;
    const seen = times(this.viewed, dyes);
    return CHANNELS.map((c) => this.light(c, seen[c] + this.stain[c])) as Triple;
  }
}

/** Densities with a share of silver beside the dyes: neutral, and as dense as the dyes' mean. */
function withSilver(m: Rows, share: number, undiminished: Rows = m): Rows {
  return m.map((row) =>
    row.map(
      (v, j) => v + (share * (undiminished[0][j]! + undiminished[1][j]! + undiminished[2][j]!)) / 3,
    ),
  ) as unknown as Rows;
}

/**
 * The deviation from neutral of a channel at a density, smoothly interpolated between the stated
 * points.
 */
function crossing(points: Stock['crossover'], density: number, c: 0 | 1 | 2): number {
  if (points.length === 0) return 0;
  const first = points[0]!,
    last = points.at(-1)!;
  if (density <= first[0]) return first[c + 1]!;
  if (density >= last[0]) return last[c + 1]!;
  const i = points.findIndex((p) => p[0] > density);
  const [a, b] = [points[i - 1]!, points[i]!];
  const t = (density - a[0]) / (b[0] - a[0]);
  return a[c + 1]! + (b[c + 1]! - a[c + 1]!) * t * t * (3 - 2 * t);
}
