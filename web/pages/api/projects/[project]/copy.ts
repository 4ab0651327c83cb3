import { copyProject } from '../../../../../server/projects/projects';
import { endpoint, id, json, notFound } from '../../../../api/answer';

/** Copies a project. */
export const POST = endpoint(async (c) => {
  const made = await copyProject(id(c, 'project', 'project'));
  if (made === undefined) throw notFound('project');
  return json({ id: made }, 201);
});
