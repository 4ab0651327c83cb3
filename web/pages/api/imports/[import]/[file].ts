import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { UPLOADING } from '../../../../../server/projects';
import { inData } from '../../../../../server/settings';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';

/** One file of an import, as the raw body. */
export const PUT = endpoint(async (c) => {
  const key = id(c, 'import', 'import');
  const job = await db().query.imports.findFirst({ where: eq(tables.imports.id, key) });
  const name = job?.files[Number(c.params['file'])];
  if (!job || name === undefined || job.state !== 'waiting' || job.doing !== UPLOADING) throw notFound('upload');
  const path = inData(join('incoming', key, name));
  try {
    await pipeline(c.request.body ? Readable.fromWeb(c.request.body as never) : Readable.from([]), createWriteStream(path));
  } catch {
    await rm(path, { force: true });
    throw new Problem(400, 'The upload broke off', 'The connection ended before the whole file was there: bring it again.');
  }
  return json({});
});
