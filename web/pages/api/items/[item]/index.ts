import { cancelItem, retryItem } from '../../../../../server/deliveries';
import { endpoint, id, json, Problem } from '../../../../api/answer';

/** Cancels. */
export const DELETE = endpoint(async (c) => {
  await cancelItem(id(c, 'item', 'delivery'));
  return json({});
});
/** Tries again. */
export const POST = endpoint(async (c) => {
  if (!(await retryItem(id(c, 'item', 'delivery')))) throw new Problem(409, 'Under way', 'This clip is being rendered: cancel it first.');
  return json({}, 202);
});
