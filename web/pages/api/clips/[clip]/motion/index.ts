import { queueMotion, stopMotion } from '../../../../../../server/footage/motion';
import { body, endpoint, id, json, notFound } from '../../../../../api/answer';
import { MotionFrom } from '../../../../../api/requests';

/** Starts measuring a clip's motion at the frame `from`. */
export const POST = endpoint(async (c) => {
  const { from } = await body(c.request, MotionFrom);
  if (!(await queueMotion(id(c, 'clip', 'clip'), from))) throw notFound('clip');
  return json({}, 202);
});

/** Stops measuring; measured pairs stay. */
export const DELETE = endpoint(async (c) => {
  if (!(await stopMotion(id(c, 'clip', 'clip')))) throw notFound('clip');
  return json({}, 202);
});
