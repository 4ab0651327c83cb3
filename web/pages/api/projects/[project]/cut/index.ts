import { readCut } from '../../../../../../core';
import { cutOf, saveCut, versionsOf } from '../../../../../../server/cuts/cuts';
import { body, endpoint, json, Problem } from '../../../../../api/answer';
import { projectIn } from '../../../../../api/project';
import { CutPart } from '../../../../../api/requests';
import type { CutView } from '../../../../../data/views';

/** The cut of a project, and its versions. */
export const GET = endpoint(async (c) => {
  const project = await projectIn(c);
  const [cut, versions] = await Promise.all([cutOf(project), versionsOf(project)]);
  return json({
    ...cut,
    versions: versions.map((v) => ({ ...v, created: v.created.toISOString() })),
  } satisfies CutView);
});
/** Saves a cut in place of a revision. */
export const PUT = endpoint(async (c) => {
  const project = await projectIn(c);
  const { document, revision: from } = await body(c.request, CutPart);
  const read = readCut(document);
  if ('faults' in read)
    throw new Problem(
      422,
      'Not a cut',
      read.faults.map((f) => `${f.path} ${f.message}`).join('; '),
      { faults: read.faults },
    );
  const revision = await saveCut(project, read.cut, from);
  if (revision === undefined)
    throw new Problem(
      409,
      'Changed meanwhile',
      'Somebody else has changed the cut meanwhile; nothing was saved. Look at theirs, and do yours again.',
      await cutOf(project).then((now) => ({ now })),
    );
  return json({ revision });
});
