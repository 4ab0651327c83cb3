import { alignmentIn, type Aligned } from '../../../../../../server/cuts/alignments';
import { body, endpoint, json, notFound } from '../../../../../api/answer';
import { projectIn } from '../../../../../api/project';
import { AlignmentAsk } from '../../../../../api/requests';

/** Where a clip’s own sound, or a sound, lies in another sound of the project. */
export const POST = endpoint(async (c) => {
  const project = await projectIn(c);
  const { clip, sound, to } = await body(c.request, AlignmentAsk);
  const of: Aligned | undefined =
    clip !== undefined ? { clip } : sound !== undefined ? { sound } : undefined;
  const found = of && (await alignmentIn(project, of, { sound: to }));
  if (found === undefined) throw notFound('sound');
  return json({ found });
});
