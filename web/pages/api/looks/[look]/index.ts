import { removeLook } from '../../../../../server/looks/versions';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Removes a look with all of its versions. */
export const DELETE = endpoint(async (c) => {
  if (!(await removeLook(id(c, 'look', 'look')))) throw notFound('look');
  return json({});
});
