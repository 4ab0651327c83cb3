import { body, endpoint, json, notFound, Problem } from '../../../../api/answer';
import { kilnView, projectIn } from '../../../../api/project';
import { NewDelivery } from '../../../../api/requests';
import { deliver } from '../../../../../server/deliveries';

export const GET = endpoint(async (c) => json(await kilnView(await projectIn(c))));
export const POST = endpoint(async (c) => {
  const wanted = await body(c.request, NewDelivery);
  if (wanted.format === 'mp4' && (wanted.width % 2 || wanted.height % 2)) throw new Problem(422, 'Odd size', 'MP4 needs an even width and height.');
  const made = await deliver(await projectIn(c), wanted);
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 201);
});
