import { bakedPicture } from '../../../../server/media/baked';
import { endpoint, notFound } from '../../../api/answer';

/** A picture that workers baked for pages, as PNG. */
export const GET = endpoint(async ({ params }) => {
  const name = params['name'] ?? '';
  const picture = name.startsWith('simd:') ? await bakedPicture(name) : undefined;
  if (!picture) throw notFound('picture');
  return new Response(new Uint8Array(picture), {
    headers: {
      'content-type': 'image/png',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
