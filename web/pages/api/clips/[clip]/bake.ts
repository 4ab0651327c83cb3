import { bakeFrames, bakingOf, stopBaking } from '../../../../../server/deliveries/bakes';
import { bakedTotal } from '../../../../../server/media/baked';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { documentOf } from '../../../../api/documents';
import { FramesToBake } from '../../../../api/requests';
import type { BakingView } from '../../../../data/views';

/** The current or latest baking of a clip, and the size of all baked frames. */
export const GET = endpoint(async (c) => {
  const [run, total] = await Promise.all([bakingOf(id(c, 'clip', 'clip')), bakedTotal()]);
  return json({ run, total } satisfies BakingView);
});

/** Bakes frames of a clip under a look from the original, replacing a running one. */
export const POST = endpoint(async (c) => {
  const { document, keeps, width, height, ...frames } = await body(c.request, FramesToBake);
  if (keeps === 'yuv420p' && (width % 2 || height % 2))
    throw new Problem(422, 'Odd size', 'MP4 needs an even width and height.');
  const made = await bakeFrames(id(c, 'clip', 'clip'), {
    look: documentOf(document),
    keeps,
    width,
    height,
    ...frames,
  });
  if (made === undefined) throw notFound('clip');
  if (made === false)
    throw new Problem(
      422,
      'No such frames',
      'The clip has no such frames under this look: choose some that it has.',
    );
  return json({ id: made }, 202);
});

/** Stops baking; baked frames stay. */
export const DELETE = endpoint(async (c) => {
  if (!(await stopBaking(id(c, 'clip', 'clip')))) throw notFound('clip');
  return json({}, 202);
});
