import { eq } from 'drizzle-orm';
import pLimit from 'p-limit';
import { db, tables } from '../../../../../../server/database';
import { frameOf } from '../../../../../../server/media/decode';
import { storedPlace } from '../../../../../../server/media/store';
import { endpoint, notFound, Problem } from '../../../../../api/answer';

/** Whole frames are large: few are decoded at a time, and none for a page that has left. */
const atATime = pLimit(2);

/** One exact frame of the original as native planes, one after the other; what they are stands in the clip's facts. */
export const GET = endpoint(async (c) => {
  const row = await db().query.footage.findFirst({ where: eq(tables.footage.hash, c.params['hash'] ?? '') });
  if (!row) throw notFound('footage');
  const frame = Number(c.params['frame']);
  if (!Number.isInteger(frame) || frame < 0 || frame >= row.facts.frames)
    throw new Problem(404, 'No such frame', `The footage has frames 0 to ${row.facts.frames - 1}.`);
  const { signal } = c.request;
  const raw = await atATime(async () => {
    signal.throwIfAborted();
    return frameOf(await storedPlace(row.file, row.facts), row.facts, frame, signal);
  });
  const bytes = Buffer.concat(raw.planes.map((p) => Buffer.from(p.buffer, p.byteOffset, p.byteLength)));
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'public, max-age=31536000, immutable' },
  });
});
