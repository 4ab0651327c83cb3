import { dropReference } from '../../../../../server/projects/references';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Removes a reference. */
export const DELETE = endpoint(async (c) => {
  if (!(await dropReference(id(c, 'reference', 'reference')))) throw notFound('reference');
  return json({});
});
