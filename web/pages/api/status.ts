import { sql } from 'drizzle-orm';
import { db } from '../../../server/database';
import { endpoint, json } from '../../api/answer';

/** Whether server and database work. */
export const GET = endpoint(async () => {
  await db().execute(sql`select 1`);
  return json({ well: true });
});
