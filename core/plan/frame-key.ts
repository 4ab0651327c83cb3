import type { ImageNode } from '../graph';

/**
 * The name under which a finished picture is kept: what it is kept as (a page's bytes by a back
 * end, or a delivery's samples), at which size (pixels), and what made it. Nothing that it depends
 * on is missing, so none is ever out of date.
 */
export const frameKeyOf = (
  as: string,
  { width, height }: { readonly width: number; readonly height: number },
  codes: ImageNode,
): string => `${as}:${width}x${height}:${codes.key}`;
