import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, inArray } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { notify } from '../../../../../server/events';
import { queueImport, UPLOADING } from '../../../../../server/footage/imports';
import { inData } from '../../../../../server/config/settings';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';

const { imports } = tables;

/** Starts the import after all files have been uploaded. */
export const POST = endpoint(async (c) => {
  const begun = await queueImport(id(c, 'import', 'import'));
  if (begun === undefined) throw notFound('import');
  if (!begun)
    throw new Problem(
      409,
      'Begun already',
      'This upload is being brought in, or was: open a new one for other files.',
    );
  return json({}, 202);
});

/** Cancels a running import, or removes a finished one from the list. */
export const DELETE = endpoint(async (c) => {
  const key = id(c, 'import', 'import');
  const [stopped] = await db()
    .update(imports)
    .set({ state: 'cancelled' })
    .where(and(eq(imports.id, key), inArray(imports.state, ['waiting', 'running'])))
    .returning();
  const [row] = stopped
    ? [stopped]
    : await db().delete(imports).where(eq(imports.id, key)).returning();
  if (!row) throw notFound('import');
  if (row.doing === UPLOADING || !stopped)
    await rm(inData(join('incoming', key)), { recursive: true, force: true });
  await notify({ project: row.projectId, what: 'imports' });
  return json({});
});
