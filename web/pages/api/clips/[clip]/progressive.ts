import { importProgressive } from '../../../../../server/footage/imports';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { NewProgressive } from '../../../../api/requests';

/** Has interlaced footage made progressive, as a clip of its own. */
export const POST = endpoint(async (c) => {
  const clip = id(c, 'clip', 'clip');
  const { each } = await body(c.request, NewProgressive);
  const made = await importProgressive(clip, each);
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 202);
});
