/** What a look adds stays within what the clip covers. */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';
import { select } from '../kernel';

/**
 * A picture confined to what a clip covers: nowhere more covered than the clip is, and light that
 * covers nothing (a glow) only as far as the clip covers. A layer that repeats the clip over itself
 * counts a half-covered pixel twice; here it is half covered again. Clips that cover the whole
 * frame leave the picture as it is.
 */
export function within(picture: ImageNode, clip: ImageNode): ImageNode {
  if (clip.planes !== 4 || picture.key === clip.key) return picture;
  const cover = clip.domain === 'none' ? clip : inDomain(clip, picture.domain);
  return imageOp({
    shape: `within-${picture.planes}`,
    inputs: [pointwise(picture), pointwise(cover)],
    planes: 4,
    domain: picture.domain,
    build: (b) => {
      const c = b.pixel(0),
        most = b.pixel(1)[3]!,
        own = c[3];
      if (!own) return [...c.slice(0, 3).map((v) => v.mul(most)), most];
      const share = select(own.le(most), select(own.le(0), most, 1), most.div(own));
      return [...c.slice(0, 3).map((v) => v.mul(share)), own.min(most)];
    },
  });
}
