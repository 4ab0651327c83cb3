import { anyBaked, clearBaked, isBaked } from '../../../../server/media/baked';
import { body, endpoint, json } from '../../../api/answer';
import { KeptNames } from '../../../api/requests';

/** Tells which of the named pictures are baked, and whether any are. */
export const POST = endpoint(async ({ request }) => {
  const { names } = await body(request, KeptNames);
  const there = await Promise.all(names.map(isBaked));
  return json({ there: names.filter((_, i) => there[i]), any: await anyBaked() });
});

/** Removes all baked frames. */
export const DELETE = endpoint(async () => {
  await clearBaked();
  return json({});
});
