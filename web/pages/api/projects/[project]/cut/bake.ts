import { bakeCut, bakingOfCut, stopBakingCut } from '../../../../../../server/deliveries/bakes';
import { bakedTotal } from '../../../../../../server/media/baked';
import { body, endpoint, json, Problem } from '../../../../../api/answer';
import { projectIn } from '../../../../../api/project';
import { CutToBake } from '../../../../../api/requests';
import type { BakingView } from '../../../../../data/views';

/** The current or latest baking of the cut, and the size of all baked frames. */
export const GET = endpoint(async (c) => {
  const [run, total] = await Promise.all([bakingOfCut(await projectIn(c)), bakedTotal()]);
  return json({ run, total } satisfies BakingView);
});
/** Bakes the cut for playing, from a frame on and then what lies before it. */
export const POST = endpoint(async (c) => {
  const project = await projectIn(c);
  const made = await bakeCut(project, await body(c.request, CutToBake));
  if (made === undefined)
    throw new Problem(422, 'Nothing there', 'Nothing stands in the cut yet: place clips first.');
  return json({ id: made }, 202);
});
/** Stops baking; baked frames stay. */
export const DELETE = endpoint(async (c) => {
  await stopBakingCut(await projectIn(c));
  return json({}, 202);
});
