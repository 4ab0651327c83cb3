import { kindOfPlace, PLACE_KINDS } from '../../../../../core';
import { addTrace } from '../../../../../server/traces/traces';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { NewTrace } from '../../../../api/requests';

/** Traces something in a clip's footage. */
export const POST = endpoint(async (c) => {
  const { name, kind = 'point', follow, marks } = await body(c.request, NewTrace);
  if (marks.some((m) => kindOfPlace(m) !== kind))
    throw new Problem(
      400,
      'The marks do not fit',
      `Every mark of this trace must be ${PLACE_KINDS[kind].words}`,
    );
  const made = await addTrace(id(c, 'clip', 'clip'), { name, kind, follow, marks });
  if (made === undefined) throw notFound('clip');
  return json({ id: made }, 201);
});
