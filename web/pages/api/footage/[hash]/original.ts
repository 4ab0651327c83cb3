import { extname } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { inData } from '../../../../../server/config/settings';
import { endpoint, notFound } from '../../../../api/answer';
import { fileAnswer } from '../../../../api/file';

/** The original file of footage, whole or in ranges; not for picture sequences. */
export const GET = endpoint(async (c) => {
  const row = await db().query.footage.findFirst({
    where: eq(tables.footage.hash, c.params['hash'] ?? ''),
    columns: { facts: true, file: true },
  });
  if (!row || row.facts.kind === 'sequence') throw notFound('file');
  return fileAnswer(c.request, inData(row.file), {
    'content-type': 'application/octet-stream',
    'x-ending': extname(row.file),
    'cache-control': 'private, max-age=3600',
  });
});
