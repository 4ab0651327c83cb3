import { cutOf, keepVersion } from '../../../../../../../server/cuts/cuts';
import { body, endpoint, json } from '../../../../../../api/answer';
import { projectIn } from '../../../../../../api/project';
import { NewCutVersion } from '../../../../../../api/requests';

/** Keeps the cut as it stands as a version. */
export const POST = endpoint(async (c) => {
  const project = await projectIn(c);
  const { name } = await body(c.request, NewCutVersion);
  const { document } = await cutOf(project);
  return json({ number: await keepVersion(project, name, document) }, 201);
});
