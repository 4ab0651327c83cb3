import { importProgressive } from '../../../../../server/footage/imports';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { NewProgressive } from '../../../../api/requests';

/** Makes interlaced footage progressive, as a new clip. */
export const POST = endpoint(async (c) => {
  const clip = id(c, 'clip', 'clip');
  const { each } = await body(c.request, NewProgressive);
  const made = await importProgressive(clip, each);
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 202);
});
