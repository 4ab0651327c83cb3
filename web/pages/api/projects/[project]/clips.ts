import { ChangedMeanwhile, editClips, NotInFootage } from '../../../../../server/clips/clips';
import { versionsExist } from '../../../../../server/looks/versions';
import { body, endpoint, json, notFound, Problem } from '../../../../api/answer';
import { projectIn } from '../../../../api/project';
import { ClipEdits } from '../../../../api/requests';

/** Changes decisions about clips: all of them or none. */
export const POST = endpoint(async (c) => {
  const { clips } = await body(c.request, ClipEdits);
  if (!(await versionsExist(clips.flatMap((e) => (e.to.version ? [e.to.version] : [])))))
    throw notFound('look version');
  try {
    return json({ changed: await editClips(await projectIn(c), clips) });
  } catch (e) {
    if (e instanceof NotInFootage)
      throw new Problem(
        400,
        'Not in the file',
        `${e.message}: choose an out among them. Nothing was changed.`,
      );
    if (!(e instanceof ChangedMeanwhile)) throw e;
    throw new Problem(
      409,
      'Changed by someone else meanwhile',
      `${e.message}. Nothing was changed: look at the clips again, then do it anew.`,
    );
  }
});
