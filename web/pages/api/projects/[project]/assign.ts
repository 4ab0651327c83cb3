import { assign, versionOf } from '../../../../../server/projects';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { Assignment } from '../../../../api/requests';

export const POST = endpoint(async (c) => {
  const a = await body(c.request, Assignment);
  if (a.version !== null && !(await versionOf(a.version))) throw notFound('look version');
  return json({ changed: await assign(id(c, 'project', 'project'), a.clips, a.version) });
});
