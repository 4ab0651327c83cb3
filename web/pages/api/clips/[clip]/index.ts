import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { queueMeasure } from '../../../../../server/jobs/measure';
import { tell } from '../../../../../server/events';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { ClipChange } from '../../../../api/requests';

const { clips } = tables;

export const PATCH = endpoint(async (c) => {
  const change = { ...(await body(c.request, ClipChange)) };
  if (Object.keys(change).length === 0)
    throw new Problem(422, 'Nothing to change', 'Give the clip at least one of a name, an encoding, or how it fits.');
  const [row] = await db()
    .update(clips)
    .set(change)
    .where(eq(clips.id, id(c, 'clip', 'clip')))
    .returning({ project: clips.projectId, hash: clips.hash, encoding: clips.encoding });
  if (!row) throw notFound('clip');
  if (change.encoding) await queueMeasure([row]);
  await tell({ project: row.project, what: 'clips' });
  return json({});
});
export const DELETE = endpoint(async (c) => {
  const [row] = await db()
    .delete(clips)
    .where(eq(clips.id, id(c, 'clip', 'clip')))
    .returning({ project: clips.projectId });
  if (!row) throw notFound('clip');
  await tell({ project: row.project, what: 'clips' });
  return json({});
});
