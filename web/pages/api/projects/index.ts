import { makeProject, projectList } from '../../../../server/projects/projects';
import { body, endpoint, json } from '../../../api/answer';
import { NewProject } from '../../../api/requests';

/** All projects. */
export const GET = endpoint(async () => json(await projectList()));
/** Creates a project. */
export const POST = endpoint(async ({ request }) => {
  const p = await body(request, NewProject);
  return json({ id: await makeProject(p.name, p.width, p.height, [p.rateNum, p.rateDen]) }, 201);
});
