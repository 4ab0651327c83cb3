import { clipSpeeds } from '../../../../../../server/footage/motion';
import { endpoint, id, json, notFound } from '../../../../../api/answer';

/**
 * How fast what moves in a clip's footage moves, frame by frame in lines, as far as it is measured;
 * `within` names one of its mattes by its pin.
 */
export const GET = endpoint(async (c) => {
  const speeds = await clipSpeeds(
    id(c, 'clip', 'clip'),
    c.url.searchParams.get('within') ?? undefined,
  );
  if (!speeds) throw notFound('clip');
  return json(speeds);
});
