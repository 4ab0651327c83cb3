import { isDeepStrictEqual } from 'node:util';
import { and, eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { versionOf } from '../../../../../server/looks/versions';
import { keepReference, referencesOf } from '../../../../../server/projects/references';
import { body, endpoint, json, notFound, Problem } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';
import { documentOf } from '../../../../api/documents';
import { NewReference } from '../../../../api/requests';
import type { ReferenceView } from '../../../../data/views';

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** References of a project. */
export const GET = endpoint(async (c) => {
  const rows = await referencesOf(await projectIn(c));
  return json(
    rows.map(({ reference: r, number, saved }): ReferenceView => {
      const made = `${r.document.name}${number === null ? '' : ` v${number}`}${saved && isDeepStrictEqual(saved, r.document) ? '' : ', unsaved edits'}`;
      return {
        id: r.id,
        name: r.name,
        clipId: r.clipId,
        clipName: r.clipName,
        frame: r.frame,
        made,
        document: r.document,
      };
    }),
  );
});

/** Keeps a reference. */
export const POST = endpoint(async (c) => {
  const project = await projectIn(c);
  const wanted = await body(c.request, NewReference);
  const document = documentOf(wanted.document);
  const picture = Buffer.from(wanted.picture, 'base64');
  if (!picture.subarray(0, 8).equals(PNG))
    throw new Problem(422, 'Not a picture', 'A reference keeps its picture as PNG.');
  const clip = await db().query.clips.findFirst({
    where: and(eq(tables.clips.id, wanted.clip), eq(tables.clips.projectId, project)),
    with: { footage: { columns: { facts: true } } },
  });
  if (!clip) throw notFound('clip');
  const { frames } = clip.footage.facts;
  if (wanted.frame >= frames)
    throw new Problem(422, 'No such frame', `${clip.name} has frames 0 to ${frames - 1}.`);
  if (wanted.version !== null && !(await versionOf(wanted.version))) throw notFound('look version');
  const kept = {
    projectId: project,
    name: wanted.name,
    clipId: clip.id,
    clipName: clip.name,
    frame: wanted.frame,
    versionId: wanted.version,
    document,
  };
  return json({ id: await keepReference(kept, picture) }, 201);
});
