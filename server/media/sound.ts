/** Sound of footage for pages: small, made on first request, stored beside the proxies. */
import { randomUUID } from 'node:crypto';
import { access, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Footage } from './footage';
import { inData } from '../config/settings';
import { run } from './run';
import { storedPlace } from './store';

/** File name of the sound. */
export const SOUND_FILE = 'sound.webm';
const making = new Map<string, Promise<void>>();

/**
 * Path of footage's sound (Opus, timed as in deliveries); undefined if it has none. Throws
 * `ToolFailed`.
 */
export async function soundOf(file: string, footage: Footage): Promise<string | undefined> {
  if (!footage.sound) return undefined;
  const to = inData(join('footage', footage.hash, SOUND_FILE));
  const there = await access(to).then(
    () => true,
    () => false,
  );
  if (there) return to;
  let made = making.get(footage.hash);
  if (!made) {
    made = make(file, footage, to).finally(() => making.delete(footage.hash));
    making.set(footage.hash, made);
  }
  await made;
  return to;
}

async function make(file: string, footage: Footage, to: string): Promise<void> {
  const place = await storedPlace(file, footage);
  const part = `${to}.${randomUUID()}.webm`;
  try {
    // Sound that starts later than the picture is preceded by silence.
    const output = [
      '-map',
      '0:a:0',
      '-af',
      'aresample=async=1:first_pts=0',
      '-ac',
      '2',
      '-c:a',
      'libopus',
      '-b:a',
      '128k',
      part,
    ];
    await run('ffmpeg', [...place.open, ...output]);
    await rename(part, to);
  } finally {
    await rm(part, { force: true });
  }
}
