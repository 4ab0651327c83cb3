import { NothingToSplit, splitClip } from '../../../../../server/clips/clips';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { SplitBefore } from '../../../../api/requests';

/** Splits a clip before frames of its footage into several clips. */
export const POST = endpoint(async (c) => {
  const clip = id(c, 'clip', 'clip');
  const { frames } = await body(c.request, SplitBefore);
  try {
    const made = await splitClip(clip, frames);
    if (!made) throw notFound('clip');
    return json({ ids: made }, 201);
  } catch (e) {
    if (!(e instanceof NothingToSplit)) throw e;
    throw new Problem(400, 'Nothing to split', `${e.message}: choose frames between them.`);
  }
});
