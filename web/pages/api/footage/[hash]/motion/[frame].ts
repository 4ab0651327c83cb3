import { pairFile } from '../../../../../../server/media/motion';
import { endpoint, notFound, Problem } from '../../../../../api/answer';

/** Motion from a frame to the next, packed by `core/trace`. */
export const GET = endpoint(async (c) => {
  const { hash = '', frame = '' } = c.params;
  if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound('footage');
  if (!/^\d{1,6}$/.test(frame))
    throw new Problem(404, 'No such frame', 'Frames are counted from 0.');
  const packed = await pairFile(hash, Number(frame));
  if (!packed)
    throw new Problem(404, 'Not measured yet', 'Have the motion of the clip measured first.');
  return new Response(new Uint8Array(packed), {
    headers: {
      'content-type': 'application/octet-stream',
      'content-encoding': 'gzip',
      // Motion depends on the method too, so it expires.
      'cache-control': 'private, max-age=3600',
    },
  });
});
