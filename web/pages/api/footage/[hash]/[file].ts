import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { SOUND_FILE, soundOf } from '../../../../../server/media/sound';
import { inData } from '../../../../../server/config/settings';
import { endpoint, notFound } from '../../../../api/answer';
import { originalOf } from '../../../../../server/footage/original';

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

/** A proxy, the strip or the sound of footage. */
export const GET = endpoint(async (c) => {
  const { hash = '', file = '' } = c.params;
  const kind = KINDS[file];
  if (!kind || !/^[0-9a-f]{64}$/.test(hash)) throw notFound('file');
  const path = file === SOUND_FILE ? await soundFile(hash) : inData(join('footage', hash, file));
  const bytes = await readFile(path).catch(() => {
    throw notFound('file');
  });
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': kind, 'cache-control': 'public, max-age=31536000, immutable' },
  });
});
