import { cannotMeasure } from '../../../../../../core';
import {
  CannotHold,
  deliverCut,
  NothingThere,
} from '../../../../../../server/deliveries/deliveries';
import { NotFollowed } from '../../../../../../server/deliveries/snapshot';
import { body, endpoint, json, notFound, Problem } from '../../../../../api/answer';
import { projectIn } from '../../../../../api/project';
import { CutDelivery } from '../../../../../api/requests';

/** Has the whole cut rendered into one file. */
export const POST = endpoint(async (c) => {
  const wanted = await body(c.request, CutDelivery);
  const odd = cannotMeasure(wanted.format, wanted);
  if (odd !== undefined) throw new Problem(422, 'Odd size', `${odd}.`);
  const { coverage = false, effort = 'usual' } = wanted;
  const made = await deliverCut(await projectIn(c), { ...wanted, coverage, effort }).catch(
    (e: unknown) => {
      if (e instanceof NotFollowed) throw new Problem(409, 'Not followed yet', e.message);
      if (e instanceof NothingThere) throw new Problem(422, 'Nothing there', e.message);
      throw e instanceof CannotHold ? new Problem(422, 'No room for coverage', e.message) : e;
    },
  );
  if (made === undefined) throw notFound('project');
  return json({ id: made }, 201);
});
