import { endpoint, body, id, json, Problem } from '../../../../api/answer';
import { kilnView } from '../../../../api/project';
import { NewDelivery } from '../../../../api/requests';
import { deliver } from '../../../../../server/deliveries';

export const GET = endpoint(async (c) => json(await kilnView(id(c, 'project', 'project'))));
export const POST = endpoint(async (c) => {
  const wanted = await body(c.request, NewDelivery);
  if (wanted.format === 'mp4' && (wanted.width % 2 || wanted.height % 2)) throw new Problem(422, 'Odd size', 'MP4 needs an even width and height.');
  return json({ id: await deliver(id(c, 'project', 'project'), wanted) }, 201);
});
