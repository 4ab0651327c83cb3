import { PEAK_ZOOMS } from '../../../../../core';
import { peaksFile, SAMPLES_FILE } from '../../../../../server/media/sound-file';
import { inSound } from '../../../../../server/sounds/sounds';
import { endpoint, notFound } from '../../../../api/answer';
import { fileAnswer } from '../../../../api/file';

const KINDS: Readonly<Record<string, string>> = {
  [SAMPLES_FILE]: 'audio/flac',
  ...Object.fromEntries(PEAK_ZOOMS.map((z) => [peaksFile(z), 'application/octet-stream'])),
};

/** The samples or the waveform of a sound file, whole or in ranges. */
export const GET = endpoint((c) => {
  const { hash = '', file = '' } = c.params;
  const kind = Object.hasOwn(KINDS, file) ? KINDS[file] : undefined;
  if (!kind || !/^[0-9a-f]{64}$/.test(hash)) throw notFound('file');
  return fileAnswer(c.request, inSound(hash, file), {
    'content-type': kind,
    'cache-control': 'public, max-age=31536000, immutable',
  });
});
