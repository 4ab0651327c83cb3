import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { inData } from '../../../../../server/config/settings';
import { endpoint, notFound, Problem } from '../../../../api/answer';

/** Larger files are not sent as a whole. */
const MOST = 64 * 2 ** 20;

/** The original file of footage; not for picture sequences. */
export const GET = endpoint(async (c) => {
  const row = await db().query.footage.findFirst({
    where: eq(tables.footage.hash, c.params['hash'] ?? ''),
  });
  if (!row || row.facts.kind === 'sequence') throw notFound('file');
  if (row.bytes > MOST)
    throw new Problem(
      413,
      'Too large',
      `The file has more than ${MOST / 2 ** 20} MiB: copy it from where it came from.`,
    );
  const headers = {
    'content-type': 'application/octet-stream',
    'x-ending': extname(row.file),
    'cache-control': 'private, max-age=3600',
  };
  return new Response(new Uint8Array(await readFile(inData(row.file))), { headers });
});
