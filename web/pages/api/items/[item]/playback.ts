import { reasonOf } from '../../../../../server/media/reason';
import { extname } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { formOf } from '../../../../../server/deliveries/frames';
import { playbackOf, preparePlayback, stopPlayback } from '../../../../../server/media/playback';
import { inData } from '../../../../../server/config/settings';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { fileAnswer } from '../../../../api/file';

async function rendered(item: string) {
  const found = await db().query.deliveryItems.findFirst({
    where: eq(tables.deliveryItems.id, item),
    with: { delivery: true, footage: { columns: { index: false } } },
  });
  if (!found?.file) throw notFound('film');
  return { path: inData(found.file), frames: found.frames, rate: formOf(found).rate };
}

/** The playable file of a rendered file, once it exists. */
export const GET = endpoint(async (c) => {
  const path = await playbackOf((await rendered(id(c, 'item', 'delivery'))).path);
  if (path === undefined)
    throw new Problem(409, 'Not yet', 'There is no copy yet that a page can play.');
  return fileAnswer(c.request, path, {
    'content-type': extname(path) === '.mp4' ? 'video/mp4' : 'video/webm',
    'cache-control': 'no-cache',
  });
});
/** Starts making a playable copy if browsers cannot read the file; returns its progress (0…1). */
export const POST = endpoint(async (c) => {
  const file = await rendered(id(c, 'item', 'delivery'));
  try {
    return json({ share: await preparePlayback(file) });
  } catch (e) {
    throw new Problem(500, 'No copy', `No copy could be made to play here: ${reasonOf(e)}`);
  }
});
/** Stops making the copy. */
export const DELETE = endpoint(async (c) => {
  await stopPlayback((await rendered(id(c, 'item', 'delivery'))).path);
  return json({});
});
