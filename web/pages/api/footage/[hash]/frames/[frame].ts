import pLimit from 'p-limit';
import { frames } from '../../../../../../server/media/decode';
import { storedPlace } from '../../../../../../server/media/store';
import { endpoint, notFound, Problem } from '../../../../../api/answer';
import { originalOf } from '../../../../../../server/footage/original';

/** Frames are large: few are decoded at a time, and none for clients that have gone. */
const atATime = pLimit(2);

/** Most frames in one answer. */
const MOST = 8;

/**
 * An exact frame of the original as native planes, one after another; the clip's facts describe
 * them. With `?count=n` also the frames after it, n in all (at most 8), decoded together.
 */
export const GET = endpoint(async (c) => {
  const row = await originalOf(c.params['hash'] ?? '');
  if (!row) throw notFound('footage');
  const frame = Number(c.params['frame']);
  if (!Number.isInteger(frame) || frame < 0 || frame >= row.facts.frames)
    throw new Problem(404, 'No such frame', `The footage has frames 0 to ${row.facts.frames - 1}.`);
  const count = Number(c.url.searchParams.get('count') ?? 1);
  if (!Number.isInteger(count) || count < 1 || count > MOST)
    throw new Problem(400, 'Too many frames', `Ask for 1 to ${MOST} frames at a time.`);
  const { signal } = c.request;
  const planes = await atATime(async () => {
    signal.throwIfAborted();
    const found: Buffer[] = [];
    const last = Math.min(row.facts.frames - 1, frame + count - 1);
    for await (const raw of frames(
      await storedPlace(row.file, row.facts),
      row.facts,
      frame,
      last,
      signal,
    ))
      found.push(...raw.planes.map((p) => Buffer.from(p.buffer, p.byteOffset, p.byteLength)));
    return found;
  });
  const bytes = Buffer.concat(planes);
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'application/octet-stream',
      'cache-control': 'public, max-age=31536000, immutable',
    },
  });
});
