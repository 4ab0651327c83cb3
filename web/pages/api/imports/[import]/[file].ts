import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { isDiskFull } from '../../../../../server/media/run';
import { UPLOADING, uploadName } from '../../../../../server/footage/imports';
import { inData } from '../../../../../server/config/settings';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';

/** Receives a file of an import as the raw body. */
export const PUT = endpoint(async (c) => {
  const key = id(c, 'import', 'import');
  const job = await db().query.imports.findFirst({ where: eq(tables.imports.id, key) });
  const index = Number(c.params['file']),
    own = job?.files[index];
  const name = own === undefined ? undefined : uploadName(own, index);
  if (!job || name === undefined || job.state !== 'waiting' || job.doing !== UPLOADING)
    throw notFound('upload');
  const path = inData(join('incoming', key, name));
  try {
    await pipeline(
      c.request.body ? Readable.fromWeb(c.request.body as never) : Readable.from([]),
      createWriteStream(path),
    );
  } catch (e) {
    await rm(path, { force: true });
    if (isDiskFull(e))
      throw new Problem(
        507,
        'The disk is full',
        'There is no room for this file on the disk: make room, then bring it again.',
      );
    throw new Problem(
      400,
      'The upload broke off',
      'The connection ended before the whole file was there: bring it again.',
    );
  }
  // Cancelled during the upload: the file is removed.
  const now = await db().query.imports.findFirst({
    where: eq(tables.imports.id, key),
    columns: { state: true },
  });
  if (now?.state !== 'waiting')
    await rm(inData(join('incoming', key)), { recursive: true, force: true });
  return json({});
});
