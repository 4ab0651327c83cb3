import { addTrace } from '../../../../../server/traces/traces';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { NewTrace } from '../../../../api/requests';

/** Traces something in a clip's footage. */
export const POST = endpoint(async (c) => {
  const { name, follow, marks } = await body(c.request, NewTrace);
  const made = await addTrace(id(c, 'clip', 'clip'), { name, follow, marks });
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 201);
});
