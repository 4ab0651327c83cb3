import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { queueMeasure } from '../../../../../server/jobs/measure';
import { endpoint, id, json } from '../../../../api/answer';

/** Has every clip of the project measured that was not yet. */
export const POST = endpoint(async (c) => {
  const { clips } = tables;
  const all = await db()
    .select({ hash: clips.hash, encoding: clips.encoding })
    .from(clips)
    .where(eq(clips.projectId, id(c, 'project', 'project')));
  await queueMeasure(all);
  return json({ clips: all.length }, 202);
});
