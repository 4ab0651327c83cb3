/** Confines what a look adds to the area that the clip covers. */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';
import { select } from '../kernel';

/**
 * A picture confined to the clip's coverage. Coverage nowhere exceeds the clip's. Light without
 * coverage (a glow) is multiplied by the clip's coverage. A layer that repeats the clip over itself
 * covers half-covered pixels twice; here they are half covered again. A clip that covers the whole
 * frame leaves the picture unchanged.
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
