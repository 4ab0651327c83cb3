import { cancelItem, retryItem } from '../../../../../server/deliveries/deliveries';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';

/** Cancels an item. */
export const DELETE = endpoint(async (c) => {
  if (!(await cancelItem(id(c, 'item', 'delivery')))) throw notFound('delivery');
  return json({});
});
/** Tries an item again. */
export const POST = endpoint(async (c) => {
  const begun = await retryItem(id(c, 'item', 'delivery'));
  if (begun === undefined) throw notFound('delivery');
  if (!begun) throw new Problem(409, 'Under way', 'This clip is being rendered: cancel it first.');
  return json({}, 202);
});
