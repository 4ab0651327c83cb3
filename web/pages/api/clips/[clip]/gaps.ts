import { importGaps } from '../../../../../server/footage/imports';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { NewGaps } from '../../../../api/requests';

/** Brings a sequence in again, with another choice for its missing pictures, as a new clip. */
export const POST = endpoint(async (c) => {
  const clip = id(c, 'clip', 'clip');
  const { gaps } = await body(c.request, NewGaps);
  const made = await importGaps(clip, gaps);
  if (made === undefined) throw notFound('clip');
  if (made === null)
    throw new Problem(409, 'Nothing is missing', 'This clip lacks no pictures: leave it as it is.');
  return json({ id: made }, 202);
});
