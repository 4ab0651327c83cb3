import { statisticsOfReference } from '../../../../../server/projects/references';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Statistics of a reference's picture. */
export const GET = endpoint(async (c) => {
  const statistics = await statisticsOfReference(id(c, 'reference', 'reference'));
  if (!statistics) throw notFound('reference');
  return json(statistics);
});
