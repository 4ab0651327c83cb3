/**
 * How a picture lies in a frame: its size there, and which of its places lies in the frame's
 * middle.
 */

/**
 * Whole with bars, covering the frame, stretched to it, or as large as it is: one of its rows a
 * line of the frame.
 */
export const FITS = ['fit', 'fill', 'stretch', 'stay'] as const;
export type Fit = (typeof FITS)[number];

/**
 * Where on the picture (shares) the middle of the frame lies, and how much larger it is shown, in
 * per cent.
 */
export interface Reframe {
  readonly x: number;
  readonly y: number;
  readonly closer: number;
}
export const CENTRED: Reframe = { x: 0.5, y: 0.5, closer: 100 };

export interface Framing {
  /** The picture as it is shown (pixels as wide as high) and the frame it is brought into. */
  readonly clip: readonly [number, number];
  readonly frame: readonly [number, number];
  readonly fit: Fit;
  readonly reframe?: Reframe | null | undefined;
  /**
   * Its own rows, where what is at hand is smaller or larger; of use to what stays as large as it
   * is.
   */
  readonly lines?: number | undefined;
}

/**
 * A picture in shares of the frame: how wide and high, and where on the picture the frame's middle
 * lies.
 */
export interface Lie {
  readonly size: readonly [number, number];
  readonly middle: readonly [number, number];
}

/** What fills the frame is moved no further than it covers. */
const covering = (at: number, size: number): number =>
  size >= 1 ? Math.max(0.5 / size, Math.min(1 - 0.5 / size, at)) : at;

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
    // A shape that differs by less than half a pixel is the same shape.
    const pixels = whole * (typeof scale === 'number' ? scale : scale[i]!);
    return ((Math.abs(pixels - frame[i]!) < 0.5 ? frame[i]! : pixels) * closer) / 100 / frame[i]!;
  }) as [number, number];
  return { size, middle: fit === 'fill' ? [covering(x, size[0]), covering(y, size[1])] : [x, y] };
}
