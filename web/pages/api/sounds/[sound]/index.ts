import { changeSound } from '../../../../../server/sounds/sounds';
import { body, endpoint, id, json, notFound } from '../../../../api/answer';
import { SoundPart } from '../../../../api/requests';

/** Renames a sound, takes it away or puts it back. */
export const PATCH = endpoint(async (c) => {
  const part = await body(c.request, SoundPart);
  if (!(await changeSound(id(c, 'sound', 'sound'), part))) throw notFound('sound');
  return json({});
});
