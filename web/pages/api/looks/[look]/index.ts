import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Removes a look with all of its versions. */
export const DELETE = endpoint(async (c) => {
  const gone = await db()
    .delete(tables.looks)
    .where(eq(tables.looks.id, id(c, 'look', 'look')))
    .returning({ id: tables.looks.id });
  if (gone.length === 0) throw notFound('look');
  return json({});
});
