import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../../server/database';
import { stillOf } from '../../../../../../server/media/proxies';
import { inData } from '../../../../../../server/config/settings';
import { endpoint, notFound } from '../../../../../api/answer';

/** A frame of footage as a small JPEG. */
export const GET = endpoint(async (c) => {
  const { hash = '', frame = '' } = c.params;
  const row = await db().query.footage.findFirst({
    where: eq(tables.footage.hash, hash),
    columns: { facts: true },
  });
  if (!row || !/^\d{1,8}$/.test(frame) || Number(frame) >= row.facts.frames)
    throw notFound('frame');
  const bytes = await stillOf(inData(join('footage', hash)), row.facts, Number(frame));
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'image/jpeg',
      'cache-control': 'public, max-age=31536000, immutable',
    },
  });
});
