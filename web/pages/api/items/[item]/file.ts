import { basename, extname } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { inData } from '../../../../../server/config/settings';
import { endpoint, id, notFound } from '../../../../api/answer';
import { attachment, fileAnswer } from '../../../../api/file';

const KINDS: Record<string, string> = {
  '.mp4': 'video/mp4',
  '.mkv': 'video/x-matroska',
  '.zip': 'application/zip',
  '.webm': 'video/webm',
};

/** The rendered file as a download. */
export const GET = endpoint(async (c) => {
  const item = await db().query.deliveryItems.findFirst({
    where: eq(tables.deliveryItems.id, id(c, 'item', 'delivery')),
    columns: { file: true },
  });
  if (!item?.file) throw notFound('file');
  const path = inData(item.file);
  return fileAnswer(c.request, path, {
    'content-type': KINDS[extname(path)] ?? 'application/octet-stream',
    'content-disposition': attachment(basename(path)),
  });
});
