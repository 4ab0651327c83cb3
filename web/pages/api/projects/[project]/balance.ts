import { balanceClips, Rebalanced } from '../../../../../server/projects';
import { body, endpoint, id, json, Problem } from '../../../../api/answer';
import { Balances } from '../../../../api/requests';

export const POST = endpoint(async (c) => {
  const { clips } = await body(c.request, Balances);
  try {
    return json({ changed: await balanceClips(id(c, 'project', 'project'), clips) });
  } catch (e) {
    if (!(e instanceof Rebalanced)) throw e;
    throw new Problem(409, 'Balanced by someone else meanwhile', `${e.message}. Nothing was changed: look at the clips again, then balance them.`);
  }
});
