import { queueMotion, stopMotion } from '../../../../../../server/footage/motion';
import { body, endpoint, id, json, notFound } from '../../../../../api/answer';
import { MotionFrom } from '../../../../../api/requests';

/** Has the motion of a clip measured; `from` is where somebody looks at it. */
export const POST = endpoint(async (c) => {
  const { from } = await body(c.request, MotionFrom);
  if (!(await queueMotion(id(c, 'clip', 'clip'), from))) throw notFound('clip');
  return json({}, 202);
});

/** Stops measuring; what was measured by then stays. */
export const DELETE = endpoint(async (c) => {
  if (!(await stopMotion(id(c, 'clip', 'clip')))) throw notFound('clip');
  return json({}, 202);
});
