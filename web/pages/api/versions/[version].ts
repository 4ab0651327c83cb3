import { versionOf } from '../../../../server/projects';
import { endpoint, id, json, notFound } from '../../../api/answer';

export const GET = endpoint(async (c) => {
  const version = await versionOf(id(c, 'version', 'look version'));
  if (!version) throw notFound('look version');
  return json(version);
});
