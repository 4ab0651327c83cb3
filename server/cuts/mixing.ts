/** The mix of a cut of a project, from the sounds and the footage that are stored. */
import { join } from 'node:path';
import { inArray } from 'drizzle-orm';
import type { Cut } from '../../core';
import { inData } from '../config/settings';
import { db, tables } from '../database';
import type { CutSnapshot } from '../database/columns';
import { originalOf } from '../footage/original';
import { cutMix, type CutMix } from '../media/cut-mix';
import { input } from '../media/run';
import { SAMPLES_FILE } from '../media/sound-file';
import { makeSamples, type SampleFile } from '../media/sound-reader';
import { storedPlace } from '../media/store';
import { inSound } from '../sounds/sounds';
import type { OpenClip } from './open';

/** Opens the mix of a cut; samples are decoded once and kept. */
export async function openMix(cut: Cut<OpenClip>, { sounds }: CutSnapshot): Promise<CutMix> {
  const hashes = [...new Set(Object.values(sounds))];
  const rows =
    hashes.length > 0
      ? await db().query.soundFiles.findMany({ where: inArray(tables.soundFiles.hash, hashes) })
      : [];
  const channels = new Map(rows.map((r) => [r.hash, r.facts.channels]));
  return cutMix(cut, {
    async sound(id) {
      const hash = sounds[id],
        count = hash === undefined ? undefined : channels.get(hash);
      if (hash === undefined || count === undefined) return undefined;
      const file: SampleFile = { file: inSound(hash, 'samples.f32'), channels: count };
      await makeSamples(input(inSound(hash, SAMPLES_FILE)), file);
      return file;
    },
    async own({ hash, facts: { sound } }) {
      const original = sound ? await originalOf(hash) : undefined;
      if (!sound || !original) return undefined;
      const file: SampleFile = {
        file: inData(join('heard', `${hash}.f32`)),
        channels: sound.channels,
      };
      await makeSamples((await storedPlace(original.file, original.facts)).open, file);
      return file;
    },
  });
}
