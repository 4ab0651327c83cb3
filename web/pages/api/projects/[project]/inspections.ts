import { queueInspections, stopInspections } from '../../../../../server/inspections/inspections';
import { body, endpoint, json } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';
import { NewInspections } from '../../../../api/requests';

/** Inspects clips that changed since their last inspection. */
export const POST = endpoint(async (c) => {
  const { clips, again } = await body(c.request, NewInspections);
  return json({ queued: await queueInspections(await projectIn(c), clips, again) }, 202);
});
/** Stops waiting and running inspections. */
export const DELETE = endpoint(async (c) => {
  await stopInspections(await projectIn(c));
  return json({});
});
