import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { inData } from '../../../../../server/settings';
import { endpoint, id, notFound } from '../../../../api/answer';

const KINDS: Record<string, string> = { '.mp4': 'video/mp4', '.mkv': 'video/x-matroska', '.zip': 'application/zip', '.webm': 'video/webm' };

export const GET = endpoint(async (c) => {
  const item = await db().query.deliveryItems.findFirst({ where: eq(tables.deliveryItems.id, id(c, 'item', 'delivery')), columns: { file: true } });
  if (!item?.file) throw notFound('file');
  const path = inData(item.file);
  const { size } = await stat(path).catch(() => {
    throw notFound('file');
  });
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'content-type': KINDS[extname(path)] ?? 'application/octet-stream',
      'content-length': String(size),
      'content-disposition': `attachment; filename="${basename(path)}"`,
    },
  });
});
