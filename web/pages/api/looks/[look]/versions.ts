import { liesWithin } from '../../../../../core';
import { MoreFollow, Outdated, saveVersion } from '../../../../../server/looks/versions';
import { body, endpoint, id, json, notFound, Problem } from '../../../../api/answer';
import { documentOf } from '../../../../api/documents';
import { NewVersion } from '../../../../api/requests';

/** Saves the next version of a look. */
export const POST = endpoint(async (c) => {
  const { document, basedOn, follow, stay } = await body(c.request, NewVersion);
  const look = documentOf(document);
  const own = id(c, 'look', 'look');
  if (liesWithin(look, own))
    throw new Problem(
      400,
      'Made from itself',
      'This look lies within a look that lies within it: take one of the two out.',
    );
  try {
    return json(await saveVersion(own, look, basedOn, { follow, stay }), 201);
  } catch (e) {
    if (e instanceof MoreFollow)
      throw new Problem(
        409,
        'More clips follow by now',
        `${e.message}. Nothing was saved: look at the clips that follow, then save again.`,
      );
    if (!(e instanceof Outdated)) throw e;
    if (e.newest === 0) throw notFound('look');
    throw new Problem(
      409,
      'Saved by someone else meanwhile',
      `Version ${e.newest} was saved after yours was opened. Your changes are kept here: open version ${e.newest} in another tab to compare, then save again on top of it.`,
      { newest: e.newest },
    );
  }
});
