import { changeProject } from '../../../../../server/projects/projects';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { projectView } from '../../../../api/project';
import { ProjectPart } from '../../../../api/requests';

/** A project with its clips and imports. */
export const GET = endpoint(async (c) => json(await projectView(id(c, 'project', 'project'))));
/** Renames, removes or restores a project. */
export const PATCH = endpoint(async (c) => {
  if (!(await changeProject(id(c, 'project', 'project'), await body(c.request, ProjectPart))))
    throw notFound('project');
  return json({});
});
