/**
 * Data of a film stock or a print stock, as their files hold them (docs/stock.schema.json). Layers
 * are red, green, blue.
 */
export type Three = readonly [number, number, number];
export type Rows = readonly [Three, Three, Three];

/**
 * A characteristic curve, log₁₀ exposure to density, as ISO 6, ISO 5800 and ISO 2240 plot them:
 * base plus fog, a toe, a straight part and a shoulder. Exposures count from that of an 18 % grey
 * at the rated speed.
 */
export interface Curve {
  /** Density of the unexposed film (of a reversal film: of the fully exposed one). */
  readonly base: number;
  /** Slope of the straight part, density a decade of exposure. */
  readonly gamma: number;
  /** Log₁₀ exposure at which the straight part, drawn on, meets the base. */
  readonly start: number;
  /** How wide the toe bends, decades. */
  readonly toe: number;
  /** The most density above the base. */
  readonly range: number;
  /** How wide the shoulder bends, in density. */
  readonly shoulder: number;
}

/** How a layer reproduces fine detail. */
export interface Sharpness {
  /** Cycles a millimetre at which half of the contrast is left (without the overshoot). */
  readonly half: number;
  /** Adjacency effects: contrast gained at middling detail, as a share. */
  readonly overshoot: number;
  /** How far those effects reach, µm (one standard deviation). */
  readonly reach: number;
}

export interface Granularity {
  /**
   * 1000 · σ of density through a circle of 48 µm, at density 1.0 above the base (ISO 10505), a
   * layer.
   */
  readonly rms: Three;
  /** Diameter of the dye clouds (or silver grains), µm, a layer. */
  readonly discs: Three;
  /**
   * σ relative to that at 1.0, over density above the base; from one point to the next in a
   * straight line.
   */
  readonly over: readonly (readonly [density: number, ratio: number])[];
  /** Share of the variance that the three layers have in common. */
  readonly common: number;
}

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
   * Each layer's response to linear BT.709 red, green and blue; each row sums to 1. Monochrome film
   * has one row a filter.
   */
  readonly sensitivity: Rows;
  /** Of monochrome film: its response behind each taking filter, each summing to 1. */
  readonly filters?: Readonly<Record<string, Three>>;
  readonly curves: readonly [Curve, Curve, Curve];
  /**
   * Densities above the base that reach the image from those of each layer (interlayer effects and
   * mask); rows sum to 1.
   */
  readonly interlayer: Rows;
  /**
   * Density of the viewed image's red, green and blue from its cyan, magenta and yellow dyes; rows
   * sum to 1.
   */
  readonly dyes: Rows;
  readonly sharpness: readonly [Sharpness, Sharpness, Sharpness];
  readonly granularity: Granularity;
  /** A stop of push: gain of gamma (as a share), gain of speed in stops, fog added in density. */
  readonly push: { readonly gamma: number; readonly speed: number; readonly fog: number };
  /** The curves in the other kind's chemistry. */
  readonly cross: readonly [Curve, Curve, Curve];
  /**
   * Share of each dye that is lost in ten years, and the stain the base gains in that time
   * (density).
   */
  readonly fading: { readonly loss: Three; readonly stain: Three };
  /** Years this film has lain already. */
  readonly age: number;
  /**
   * Where it leaves neutral: density (of the neutral scale) and what is added to red, green and
   * blue there.
   */
  readonly crossover: readonly (readonly [
    density: number,
    red: number,
    green: number,
    blue: number,
  ])[];
}

export interface PrintStock {
  readonly curves: readonly [Curve, Curve, Curve];
  /** As `Stock.dyes`. */
  readonly dyes: Rows;
  readonly fading: Stock['fading'];
  /** Light that an 18 % grey becomes on the screen, white being 1. */
  readonly grey: number;
}

/** Picture widths, mm, as cameras expose them. */
export const GAUGES = {
  'eight-large': { label: '8 mm, large perforation', width: 4.5, base: 130 },
  'eight-small': { label: '8 mm, small perforation', width: 5.79, base: 130 },
  sixteen: { label: '16 mm', width: 10.26, base: 130 },
  'thirty-five': { label: '35 mm', width: 21.95, base: 130 },
} as const;
export type GaugeId = keyof typeof GAUGES;

/** µm on film that a pixel covers, for a picture `width` pixels wide. */
export const micronsPerPixel = (gauge: GaugeId, width: number): number =>
  (GAUGES[gauge].width * 1000) / width;
