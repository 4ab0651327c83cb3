import type { ImageNode } from '../graph';

/**
 * The cache key of a finished picture: its form (a page's bytes by a back end, or a delivery's
 * samples), its size in pixels, and what made it. It covers everything the picture depends on, so
 * no entry is ever out of date.
 */
export const frameKeyOf = (
  as: string,
  { width, height }: { readonly width: number; readonly height: number },
  codes: ImageNode,
): string => `${as}:${width}x${height}:${codes.key}`;
