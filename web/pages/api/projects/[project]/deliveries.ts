import { body, endpoint, json, notFound, Problem } from '../../../../api/answer';
import { kilnView, projectIn } from '../../../../api/project';
import { NewDelivery } from '../../../../api/requests';
import { CannotHold, deliver } from '../../../../../server/deliveries/deliveries';
import { NotFollowed } from '../../../../../server/deliveries/snapshot';
import { cannotMeasure } from '../../../../../core';

/** Deliveries of a project. */
export const GET = endpoint(async (c) => json(await kilnView(await projectIn(c))));
/** Requests a delivery. */
export const POST = endpoint(async (c) => {
  const wanted = await body(c.request, NewDelivery);
  const odd = cannotMeasure(wanted.format, wanted);
  if (odd !== undefined) throw new Problem(422, 'Odd size', `${odd}.`);
  const { coverage = false, effort = 'usual' } = wanted;
  const made = await deliver(await projectIn(c), { ...wanted, coverage, effort }).catch(
    (e: unknown) => {
      if (e instanceof NotFollowed) throw new Problem(409, 'Not followed yet', e.message);
      throw e instanceof CannotHold ? new Problem(422, 'No room for coverage', e.message) : e;
    },
  );
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 201);
});
