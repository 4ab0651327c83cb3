/**
 * How a picture is fitted into a frame: its size there, and which place of it lies in the frame's
 * middle.
 */

/**
 * `fit`: whole, with bars. `fill`: covers the frame. `stretch`: distorted to the frame. `stay`: one
 * row of the picture is one line of the frame.
 */
export const FITS = ['fit', 'fill', 'stretch', 'stay'] as const;
/** One of `FITS`. */
export type Fit = (typeof FITS)[number];

/**
 * The place in the picture (shares) that lies in the middle of the frame, and the magnification in
 * per cent.
 */
export interface Reframe {
  readonly x: number;
  readonly y: number;
  readonly closer: number;
}
/** The reframe that changes nothing. */
export const CENTRED: Reframe = { x: 0.5, y: 0.5, closer: 100 };

/** What a fit depends on. */
export interface Framing {
  /** Size of the picture as displayed (square pixels), and of the frame. */
  readonly clip: readonly [number, number];
  readonly frame: readonly [number, number];
  readonly fit: Fit;
  readonly reframe?: Reframe | null | undefined;
  /** Rows of the original, where the picture at hand has another size. Only `stay` uses it. */
  readonly lines?: number | undefined;
}

/**
 * A fitted picture: its size in shares of the frame, and the place in it that lies in the frame's
 * middle.
 */
export interface Lie {
  readonly size: readonly [number, number];
  readonly middle: readonly [number, number];
}

/** Limits a position so that a picture that fills the frame keeps covering it. */
const covering = (at: number, size: number): number =>
  size >= 1 ? Math.max(0.5 / size, Math.min(1 - 0.5 / size, at)) : at;

/** The size and position of a picture in a frame. */
export function frameFit({ clip, frame, fit, reframe, lines }: Framing): Lie {
  const ratios = [frame[0] / clip[0], frame[1] / clip[1]] as const;
  const scale = {
    fit: Math.min(...ratios),
    fill: Math.max(...ratios),
    stretch: ratios,
    stay: ((frame[1] / 1080) * (lines ?? clip[1])) / clip[1],
  }[fit];
  const { x, y, closer } = reframe ?? CENTRED;
  const size = clip.map((whole, i) => {
    // Shapes that differ by less than half a pixel count as equal.
    const pixels = whole * (typeof scale === 'number' ? scale : scale[i]!);
    return ((Math.abs(pixels - frame[i]!) < 0.5 ? frame[i]! : pixels) * closer) / 100 / frame[i]!;
  }) as [number, number];
  return { size, middle: fit === 'fill' ? [covering(x, size[0]), covering(y, size[1])] : [x, y] };
}
