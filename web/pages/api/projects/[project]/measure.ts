import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { queueMeasure } from '../../../../../server/footage/statistics';
import { endpoint, json } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';

/** Measures all clips of the project that are not measured yet. */
export const POST = endpoint(async (c) => {
  const { clips } = tables;
  const all = await db()
    .select({ hash: clips.hash, decided: clips.decided })
    .from(clips)
    .where(eq(clips.projectId, await projectIn(c)));
  await queueMeasure(all.map(({ hash, decided }) => ({ hash, ...decided })));
  return json({ clips: all.length }, 202);
});
