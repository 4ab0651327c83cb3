import { PLACE_KINDS } from '../../../../../core';
import { editTrace, removeTrace } from '../../../../../server/traces/traces';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { TracePart } from '../../../../api/requests';

/** Changes the name, the marks, or whether what lies under them is followed. */
export const PATCH = endpoint(async (c) => {
  const edit = await body(c.request, TracePart);
  const done = await editTrace(id(c, 'trace', 'trace'), edit);
  if (!done) throw notFound('trace');
  if (done !== 'done')
    throw new Problem(
      400,
      'The marks do not fit',
      `Every mark of this trace must be ${PLACE_KINDS[done.kind].words}`,
    );
  return json({});
});

/** Takes a trace away, and from the pins that take it. */
export const DELETE = endpoint(async (c) => {
  if (!(await removeTrace(id(c, 'trace', 'trace')))) throw notFound('trace');
  return json({});
});
