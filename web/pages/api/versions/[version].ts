import { InUse, removeVersion, versionOf } from '../../../../server/looks/versions';
import { body, endpoint, id, json, notFound, Problem } from '../../../api/answer';
import { VersionPart } from '../../../api/requests';

/** A version of a look. */
export const GET = endpoint(async (c) => {
  const version = await versionOf(id(c, 'version', 'look version'));
  if (!version) throw notFound('look version');
  return json(version);
});
/** Removes or restores a version. */
export const PATCH = endpoint(async (c) => {
  const { removed } = await body(c.request, VersionPart);
  try {
    if (!(await removeVersion(id(c, 'version', 'look version'), removed)))
      throw notFound('look version');
  } catch (e) {
    if (e instanceof InUse) throw new Problem(409, 'The version is needed', e.message);
    throw e;
  }
  return json({});
});
