import { pictureOf } from '../../../../../server/projects/references';
import { endpoint, id, notFound } from '../../../../api/answer';

/** A reference's picture as PNG. */
export const GET = endpoint(async (c) => {
  const picture = await pictureOf(id(c, 'reference', 'reference'));
  if (!picture) throw notFound('reference');
  return new Response(new Uint8Array(picture), {
    headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=86400' },
  });
});
