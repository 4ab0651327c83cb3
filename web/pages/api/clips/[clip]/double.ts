import { doubleClip } from '../../../../../server/clips/clips';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Adds a second clip of the same stretch of footage. */
export const POST = endpoint(async (c) => {
  const made = await doubleClip(id(c, 'clip', 'clip'));
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 201);
});
