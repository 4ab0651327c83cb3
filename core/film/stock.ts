/**
 * Data of film stocks and print stocks, as in their files (docs/stock.schema.json). Layers are red,
 * green, blue.
 */
export type Three = readonly [number, number, number];
/** A 3×3 matrix in rows. */
export type Rows = readonly [Three, Three, Three];

/**
 * A characteristic curve, log₁₀ exposure to density, as ISO 6, ISO 5800 and ISO 2240 plot it: base
 * plus fog, a toe, a straight part and a shoulder. Exposure 0 is that of an 18 % grey at the rated
 * speed.
 */
export interface Curve {
  /** Density of the unexposed film (for reversal film, of the fully exposed one). */
  readonly base: number;
  /** Slope of the straight part, density per decade of exposure. */
  readonly gamma: number;
  /** Log₁₀ exposure at which the extended straight part meets the base. */
  readonly start: number;
  /** Width of the toe's bend, decades. */
  readonly toe: number;
  /** Largest density above the base. */
  readonly range: number;
  /** Width of the shoulder's bend, density. */
  readonly shoulder: number;
}

/** How a layer reproduces fine detail. */
export interface Sharpness {
  /** Cycles per millimetre at 50 % contrast (without the overshoot). */
  readonly half: number;
  /** Adjacency effects: relative gain of contrast at medium detail. */
  readonly overshoot: number;
  /** Reach of those effects, µm (one standard deviation). */
  readonly reach: number;
}

/** The grain of a stock. */
export interface Granularity {
  /**
   * RMS granularity per layer: 1000 times the standard deviation of density through an aperture of
   * 48 µm, at density 1.0 above the base (ISO 10505).
   */
  readonly rms: Three;
  /** Diameter of the dye clouds (or silver grains) per layer, µm. */
  readonly discs: Three;
  /**
   * Standard deviation relative to that at density 1.0, by density above the base; linear between
   * points.
   */
  readonly over: readonly (readonly [density: number, ratio: number])[];
  /** Share of the variance that the three layers have in common. */
  readonly common: number;
}

/** A film stock. */
export interface Stock {
  readonly id: string;
  readonly name: string;
  readonly help: string;
  readonly kind: 'negative' | 'reversal';
  /** Colour film has three layers; monochrome film one. */
  readonly layers: 'colour' | 'monochrome';
  /** ISO speed. */
  readonly speed: number;
  /**
   * Each layer's response to linear BT.709 red, green and blue; rows sum to 1. Monochrome film has
   * one row per filter.
   */
  readonly sensitivity: Rows;
  /** Response of monochrome film behind each taking filter; each sums to 1. */
  readonly filters?: Readonly<Record<string, Three>>;
  readonly curves: readonly [Curve, Curve, Curve];
  /**
   * Interlayer effects and mask: densities above the base that reach the image, from those of each
   * layer; rows sum to 1.
   */
  readonly interlayer: Rows;
  /**
   * Density of the viewed image in red, green and blue from its cyan, magenta and yellow dyes; rows
   * sum to 1.
   */
  readonly dyes: Rows;
  readonly sharpness: readonly [Sharpness, Sharpness, Sharpness];
  readonly granularity: Granularity;
  /**
   * Effect of one stop of push: relative gain of gamma, gain of speed in stops, fog added in
   * density.
   */
  readonly push: { readonly gamma: number; readonly speed: number; readonly fog: number };
  /** The curves when developed in the other kind's chemistry. */
  readonly cross: readonly [Curve, Curve, Curve];
  /** Effect of ten years: share of each dye that is lost, and the stain of the base (density). */
  readonly fading: { readonly loss: Three; readonly stain: Three };
  /** Age of this film, years. */
  readonly age: number;
  /**
   * Deviation from neutral: density on the neutral scale, and what is added to red, green and blue
   * there.
   */
  readonly crossover: readonly (readonly [
    density: number,
    red: number,
    green: number,
    blue: number,
  ])[];
}

/** A print stock. */
export interface PrintStock {
  readonly curves: readonly [Curve, Curve, Curve];
  /** As `Stock.dyes`. */
  readonly dyes: Rows;
  readonly fading: Stock['fading'];
  /** Screen light of an 18 % grey, relative to white. */
  readonly grey: number;
}

/** Film gauges: width of the picture in mm, as cameras expose it. */
export const GAUGES = {
  'eight-large': { label: '8 mm, large perforation', width: 4.5, base: 130 },
  'eight-small': { label: '8 mm, small perforation', width: 5.79, base: 130 },
  sixteen: { label: '16 mm', width: 10.26, base: 130 },
  'thirty-five': { label: '35 mm', width: 21.95, base: 130 },
} as const;
/** The id of a gauge. */
export type GaugeId = keyof typeof GAUGES;

/** Micrometres of film per pixel, for a picture `width` pixels wide. */
export const micronsPerPixel = (gauge: GaugeId, width: number): number =>
  (GAUGES[gauge].width * 1000) / width;
