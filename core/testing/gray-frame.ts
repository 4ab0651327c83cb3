/** Test helpers: decoded frames. */
import type { RawFrame } from '../image';

/** A grey frame of 8-bit samples (row by row), all of whose codes count. */
export const grayFrame = (
  key: string,
  { width, height }: { readonly width: number; readonly height: number },
  samples: Uint8Array,
): RawFrame => ({
  key,
  format: {
    width,
    height,
    layout: 'gray',
    chroma: [1, 1],
    depth: 8,
    full: true,
    matrix: 'bt709',
    siting: 'center',
    alpha: false,
  },
  planes: [samples],
});
