import { kindOfPlace, PLACE_KINDS } from '../../../../../core';
import { addTrace } from '../../../../../server/traces/traces';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { NewTrace } from '../../../../api/requests';

/** Traces something in a clip's footage. */
export const POST = endpoint(async (c) => {
  const { kind = 'point', marks, ...given } = await body(c.request, NewTrace);
  if (marks.some((m) => kindOfPlace(m) !== kind))
    throw new Problem(
      400,
      'The marks do not fit',
      `Every mark of this trace must be ${PLACE_KINDS[kind].words}`,
    );
  const made = await addTrace(id(c, 'clip', 'clip'), { ...given, kind, marks });
  if (made === undefined) throw notFound('clip');
  if (made === null)
    throw new Problem(409, 'It is here', 'There is a trace with this id already: leave the id out');
  return json({ id: made }, 201);
});
