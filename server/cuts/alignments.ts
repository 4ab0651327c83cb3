/** Where sounds of a project lie in one another: takes in their song, a new mix in the old one. */
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';
import { setImmediate as others } from 'node:timers/promises';
import { and, eq } from 'drizzle-orm';
import { type Alignment, alignment, ALIGNMENT_METHOD, ALIGNMENT_RATE } from '../../core';
import { inData } from '../config/settings';
import { db, tables } from '../database';
import { originalOf } from '../footage/original';
import { SAMPLES_FILE } from '../media/sound-file';
import { monoOf, monoOfFile } from '../media/sound-samples';
import { storedPlace } from '../media/store';
import { inSound } from '../sounds/sounds';

/** A clip's own sound, or a sound of the project. */
export type Aligned = { readonly clip: string } | { readonly sound: string };

interface Source {
  /** Content hash. */
  readonly hash: string;
  readonly mono: () => Promise<Float32Array | undefined>;
}
async function sourceOf(projectId: string, of: Aligned): Promise<Source | undefined> {
  if ('sound' in of) {
    const { sounds } = tables;
    const row = await db().query.sounds.findFirst({
      where: and(eq(sounds.projectId, projectId), eq(sounds.id, of.sound)),
    });
    return (
      row && {
        hash: row.hash,
        mono: () => monoOfFile(inSound(row.hash, SAMPLES_FILE), ALIGNMENT_RATE),
      }
    );
  }
  const { clips } = tables;
  const row = await db().query.clips.findFirst({
    where: and(eq(clips.projectId, projectId), eq(clips.id, of.clip)),
  });
  const original = row && (await originalOf(row.hash));
  return (
    original && {
      hash: row.hash,
      async mono() {
        if (!original.facts.sound) return undefined;
        const { open } = await storedPlace(original.file, original.facts);
        return monoOf(open, ALIGNMENT_RATE);
      },
    }
  );
}

/** Results are facts of two files: they are kept beside their samples. */
const placeOf = (of: Source, to: Source): string =>
  inData(join('heard', 'alignments', `${ALIGNMENT_METHOD}-${of.hash}-${to.hash}.json`));

/**
 * Where one sound lies in another; null if it cannot be told (silence, or too short). Undefined if
 * one of them is not in the project.
 */
export async function alignmentIn(
  projectId: string,
  of: Aligned,
  to: Aligned,
): Promise<Alignment | null | undefined> {
  const [one, two] = [await sourceOf(projectId, of), await sourceOf(projectId, to)];
  if (!one || !two) return undefined;
  const file = placeOf(one, two);
  const known = await readFile(file, 'utf8').catch(() => undefined);
  if (known !== undefined) return JSON.parse(known) as Alignment | null;
  const [recording, reference] = [await one.mono(), await two.mono()];
  const pause = (): Promise<void> => others(undefined);
  const found =
    recording && reference ? ((await alignment(recording, reference, pause)) ?? null) : null;
  await mkdir(dirname(file), { recursive: true });
  const part = `${file}.${randomUUID()}`;
  await writeFile(part, JSON.stringify(found));
  await rename(part, file);
  return found;
}
