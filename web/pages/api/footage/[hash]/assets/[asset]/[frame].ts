import { FRAME_ASSET_IDS } from '../../../../../../../core';
import { noteUse } from '../../../../../../../server/assets/ceiling';
import { partFile } from '../../../../../../../server/media/parts';
import { endpoint, notFound, Problem } from '../../../../../../api/answer';

/** The part of an asset at a frame, packed as its kind declares. */
export const GET = endpoint(async (c) => {
  const { hash = '', frame = '' } = c.params;
  const asset = FRAME_ASSET_IDS.find((a) => a === c.params['asset']);
  if (!asset) throw notFound('asset');
  if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound('footage');
  if (!/^\d{1,6}$/.test(frame))
    throw new Problem(404, 'No such frame', 'Frames are counted from 0.');
  const packed = await partFile(hash, asset, Number(frame));
  if (!packed)
    throw new Problem(404, 'Not made yet', `Have the ${asset} of the clip measured first.`);
  await noteUse(hash, asset);
  return new Response(new Uint8Array(packed), {
    headers: {
      'content-type': 'application/octet-stream',
      'content-encoding': 'gzip',
      // It depends on the method too, so it expires.
      'cache-control': 'private, max-age=3600',
    },
  });
});
