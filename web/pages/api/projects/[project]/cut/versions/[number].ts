import { versionOf } from '../../../../../../../server/cuts/cuts';
import { endpoint, json, notFound } from '../../../../../../api/answer';
import { projectIn } from '../../../../../../api/project';

/** The document of a version of the cut. */
export const GET = endpoint(async (c) => {
  const project = await projectIn(c),
    number = Number(c.params['number']);
  const document = Number.isInteger(number) ? await versionOf(project, number) : undefined;
  if (!document) throw notFound('version');
  return json({ document });
});
