import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { notify } from '../../../../../server/events';
import { endpoint, id, json, notFound } from '../../../../api/answer';

const { clips } = tables;

/** Removes a clip from its project. */
export const DELETE = endpoint(async (c) => {
  const [row] = await db()
    .delete(clips)
    .where(eq(clips.id, id(c, 'clip', 'clip')))
    .returning({ project: clips.projectId });
  if (!row) throw notFound('clip');
  await notify({ project: row.project, what: 'clips' });
  return json({});
});
