import { queueMotion, stopMotion } from '../../../../../server/motions';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Has the motion of a clip measured. */
export const POST = endpoint(async (c) => {
  if (!(await queueMotion(id(c, 'clip', 'clip')))) throw notFound('clip');
  return json({}, 202);
});

/** Stops measuring; what was measured by then stays. */
export const DELETE = endpoint(async (c) => {
  if (!(await stopMotion(id(c, 'clip', 'clip')))) throw notFound('clip');
  return json({}, 202);
});
