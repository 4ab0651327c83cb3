import { setFollowing, trackOf } from '../../../../../server/traces/traces';
import { endpoint, id, json, notFound, Problem } from '../../../../api/answer';

/** The track of a trace: a place for each frame of the footage, and how sure it is. */
export const GET = endpoint(async (c) => {
  const of = c.url.searchParams.get('of') ?? undefined;
  if (of !== undefined && !/^[0-9a-f]{64}$/.test(of)) throw notFound('track');
  const track = await trackOf(id(c, 'trace', 'trace'), of);
  if (!track)
    throw new Problem(
      404,
      'Not followed yet',
      'The trace is not followed to its end: wait for it.',
    );
  return json(track);
});

/** Follows a trace, if it was stopped or failed. */
export const POST = endpoint(async (c) => {
  if (!(await setFollowing(id(c, 'trace', 'trace'), true))) throw notFound('trace');
  return json({}, 202);
});

/** Stops following. */
export const DELETE = endpoint(async (c) => {
  if (!(await setFollowing(id(c, 'trace', 'trace'), false))) throw notFound('trace');
  return json({}, 202);
});
