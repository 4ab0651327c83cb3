import { join } from 'node:path';
import { SOUND_FILE, soundOf } from '../../../../../server/media/sound';
import { inData } from '../../../../../server/config/settings';
import { originalOf } from '../../../../../server/footage/original';
import { endpoint, notFound } from '../../../../api/answer';
import { fileAnswer } from '../../../../api/file';

const KINDS: Record<string, string> = {
  'proxy-540.webm': 'video/webm',
  'proxy-270.webm': 'video/webm',
  'strip.jpg': 'image/jpeg',
  [SOUND_FILE]: 'audio/webm',
};

/** The sound's path; it is made on first request. */
async function soundFile(hash: string): Promise<string> {
  const row = await originalOf(hash);
  const made = row && (await soundOf(row.file, row.facts));
  if (!made) throw notFound('sound');
  return made;
}

/** A proxy, the strip or the sound of footage, whole or in ranges. */
export const GET = endpoint(async (c) => {
  const { hash = '', file = '' } = c.params;
  const kind = Object.hasOwn(KINDS, file) ? KINDS[file] : undefined;
  if (!kind || !/^[0-9a-f]{64}$/.test(hash)) throw notFound('file');
  const path = file === SOUND_FILE ? await soundFile(hash) : inData(join('footage', hash, file));
  return fileAnswer(c.request, path, {
    'content-type': kind,
    'cache-control': 'public, max-age=31536000, immutable',
  });
});
