import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { inData } from '../../../../../server/settings';
import { endpoint, notFound } from '../../../../api/answer';

const KINDS: Record<string, string> = { 'proxy-540.webm': 'video/webm', 'proxy-270.webm': 'video/webm', 'strip.jpg': 'image/jpeg' };

export const GET = endpoint(async (c) => {
  const { hash = '', file = '' } = c.params;
  const kind = KINDS[file];
  if (!kind || !/^[0-9a-f]{64}$/.test(hash)) throw notFound('file');
  const bytes = await readFile(inData(join('footage', hash, file))).catch(() => {
    throw notFound('file');
  });
  return new Response(new Uint8Array(bytes), { headers: { 'content-type': kind, 'cache-control': 'public, max-age=31536000, immutable' } });
});
