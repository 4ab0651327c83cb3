/** Rendered files as pages can play them: as they are, or a small copy of what browsers do not read, made when it is first asked for. */
import { randomUUID } from 'node:crypto';
import { rename, rm, stat } from 'node:fs/promises';
import { extname } from 'node:path';
import { run } from './run';

/** What browsers play as it is. */
const PLAYED: readonly string[] = ['.mp4', '.webm'];
const LINES = 540;
const making = new Map<string, Promise<void>>();
const madeAt = (path: string): Promise<number> =>
  stat(path).then(
    (s) => s.mtimeMs,
    () => 0,
  );

/** The path of what is played of a rendered file; undefined of pictures in an archive. Throws `ToolFailed`. */
export async function playbackOf(path: string): Promise<string | undefined> {
  const kind = extname(path).toLowerCase();
  if (PLAYED.includes(kind)) return path;
  if (kind !== '.mkv') return undefined;
  const to = `${path}.playback.webm`;
  // A file that was rendered again has another.
  if ((await madeAt(to)) > (await madeAt(path))) return to;
  const made = making.get(path) ?? make(path, to).finally(() => making.delete(path));
  making.set(path, made);
  await made;
  return to;
}

async function make(path: string, to: string): Promise<void> {
  const part = `${to}.${randomUUID()}.webm`;
  try {
    const picture = ['-vf', `scale=-2:'min(${LINES},ih)':flags=area,format=yuv420p`, '-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8'];
    const sound = ['-map', '0:v:0', '-map', '0:a:0?', '-c:a', 'libopus', '-b:a', '128k'];
    await run('ffmpeg', ['-i', path, ...sound, ...picture, '-crf', '24', '-b:v', '0', part]);
    await rename(part, to);
  } finally {
    await rm(part, { force: true });
  }
}
