import { basename } from 'node:path';
import { openImport } from '../../../../../server/footage/imports';
import { body, endpoint, json, Problem } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';
import { NewImport } from '../../../../api/requests';

/** Creates an import. */
export const POST = endpoint(async (c) => {
  const project = await projectIn(c);
  const { name, files, role } = await body(c.request, NewImport);
  const plain = files.map((f) => basename(f));
  if (plain.some((f) => f === '' || f === '.' || f === '..' || f.includes('\0')))
    throw new Problem(422, 'Not a file name', 'Give each file a plain name.');
  if (new Set(plain).size < plain.length)
    throw new Problem(
      422,
      'Two files of one name',
      'The files of a sequence need names of their own.',
    );
  return json({ id: await openImport(project, basename(name), plain, role) }, 201);
});
