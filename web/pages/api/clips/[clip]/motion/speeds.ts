import { clipSpeeds } from '../../../../../../server/footage/motion';
import { endpoint, id, json, notFound } from '../../../../../api/answer';

/**
 * Speeds of the motion in a clip's footage, in lines per frame, as far as measured. `within` limits
 * them to a matte, by its pin.
 */
export const GET = endpoint(async (c) => {
  const speeds = await clipSpeeds(
    id(c, 'clip', 'clip'),
    c.url.searchParams.get('within') ?? undefined,
  );
  if (!speeds) throw notFound('clip');
  return json(speeds);
});
