import { extname } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { playbackOf } from '../../../../../server/media/playback';
import { inData } from '../../../../../server/settings';
import { endpoint, id, notFound } from '../../../../api/answer';
import { fileAnswer } from '../../../../api/file';

/** What a page plays of a rendered file. */
export const GET = endpoint(async (c) => {
  const item = await db().query.deliveryItems.findFirst({ where: eq(tables.deliveryItems.id, id(c, 'item', 'delivery')), columns: { file: true } });
  const path = item?.file ? await playbackOf(inData(item.file)) : undefined;
  if (path === undefined) throw notFound('film');
  return fileAnswer(c.request, path, { 'content-type': extname(path) === '.mp4' ? 'video/mp4' : 'video/webm', 'cache-control': 'no-cache' });
});
