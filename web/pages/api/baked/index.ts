import { anyBaked, clearBaked, isBaked } from '../../../../server/media/baked';
import { body, endpoint, json } from '../../../api/answer';
import { KeptNames } from '../../../api/requests';

/** Which of these pictures workers have baked, and whether they have any. */
export const POST = endpoint(async ({ request }) => {
  const { names } = await body(request, KeptNames);
  const there = await Promise.all(names.map(isBaked));
  return json({ there: names.filter((_, i) => there[i]), any: await anyBaked() });
});

/** Takes all frames away that workers baked. */
export const DELETE = endpoint(async () => {
  await clearBaked();
  return json({});
});
