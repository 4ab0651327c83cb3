import { queueInspections, stopInspections } from '../../../../../server/inspections';
import { body, endpoint, id, json } from '../../../../api/answer';
import { NewInspections } from '../../../../api/requests';

/** Has clips inspected that changed since they were. */
export const POST = endpoint(async (c) => {
  const { clips, again } = await body(c.request, NewInspections);
  return json({ queued: await queueInspections(id(c, 'project', 'project'), clips, again) }, 202);
});
/** Stops what is waiting or under way. */
export const DELETE = endpoint(async (c) => {
  await stopInspections(id(c, 'project', 'project'));
  return json({});
});
