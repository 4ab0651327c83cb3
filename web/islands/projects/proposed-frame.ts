/** Proposes a project's frame and rate from footage, as far as the browser can read it. */
import type { Batch } from '../../data/uploads';

/** Frames that can be chosen. */
export const FRAMES = [
  ['1920×1080 wide', 1920, 1080],
  ['3840×2160 wide', 3840, 2160],
  ['1440×1080 4:3', 1440, 1080],
  ['1080×1080 square', 1080, 1080],
  ['1080×1920 portrait', 1080, 1920],
] as const;
/** Rates that can be chosen. */
export const RATES = [
  ['23.976', 24000, 1001],
  ['24', 24, 1],
  ['25', 25, 1],
  ['29.97', 30000, 1001],
  ['30', 30, 1],
  ['50', 50, 1],
] as const;

/** Indices in FRAMES and RATES. */
export interface Proposed {
  readonly frame: number;
  readonly rate: number;
}

/** The nearest frame by shape (the two wide ones by size), and the nearest rate. */
export function nearest(width: number, height: number, rate: number | undefined): Proposed {
  const apart = ([, w, h]: (typeof FRAMES)[number]): number =>
    Math.abs(Math.log((width * h) / (height * w)));
  const shape = Math.min(...FRAMES.map(apart));
  const frame = FRAMES.findIndex((f) => apart(f) <= shape + 1e-6 && (f[1] < 3000 || height > 1500));
  const rates = RATES.map(([, n, d]) => Math.abs(Math.log((rate ?? 25) / (n / d))));
  const large = FRAMES.findIndex((f) => f[1] === 3840);
  return {
    frame: frame === 0 && height > 1500 ? large : Math.max(0, frame),
    rate: rates.indexOf(Math.min(...rates)),
  };
}

/** A proposal from the first readable file; undefined if there is none. */
export async function proposedFrom(batches: readonly Batch[]): Promise<Proposed | undefined> {
  const { ALL_FORMATS, BlobSource, Input } = await import('mediabunny');
  for (const file of batches.flatMap((b) => b.files).slice(0, 8)) {
    if (file.type.startsWith('image/')) {
      const picture = await createImageBitmap(file).catch(() => undefined);
      if (picture) return nearest(picture.width, picture.height, undefined);
      continue;
    }
    try {
      const track = await new Input({
        source: new BlobSource(file),
        formats: ALL_FORMATS,
      }).getPrimaryVideoTrack();
      if (track)
        return nearest(
          track.displayWidth,
          track.displayHeight,
          (await track.computePacketStats(120)).averagePacketRate,
        );
    } catch {
      /* the next file may be readable; the server reads more formats */
    }
  }
  return undefined;
}
