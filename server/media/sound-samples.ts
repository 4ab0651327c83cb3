/** Sound as samples: decoded to float at one rate, by ffmpeg. */
import { type Channels, SOUND_RATE } from '../../core';
import { input, run } from './run';

const BYTES = 4;

/**
 * The first track of an opened input, as planes of `SOUND_RATE`; sound that starts late is preceded
 * by silence. `filter`: more filters, after that. Throws `ToolFailed`.
 */
export async function soundSamples(
  opened: readonly string[],
  channels: number,
  filter: readonly string[] = [],
): Promise<Channels> {
  const filters = [`aresample=${SOUND_RATE}:async=1:first_pts=0`, ...filter].join();
  const { out } = await run('ffmpeg', [
    ...opened,
    ...['-map', '0:a:0', '-af', filters],
    ...['-ac', String(channels), '-f', 'f32le', '-c:a', 'pcm_f32le', '-'],
  ]);
  const count = Math.floor(out.length / (BYTES * channels));
  const planes = Array.from({ length: channels }, () => new Float32Array(count));
  for (let i = 0, at = 0; i < count; i++)
    for (let c = 0; c < channels; c++, at += BYTES) planes[c]![i] = out.readFloatLE(at);
  return planes;
}

/** The first track of a file, whatever else it holds; undefined without one that can be read. */
export async function soundOfFile(file: string): Promise<Channels | undefined> {
  const asked = ['-select_streams', 'a:0', '-show_entries', 'stream=channels', '-of', 'csv=p=0'];
  const said = await run('ffprobe', [...asked, ...input(file)]).catch(() => undefined);
  const channels = Number.parseInt(said?.out.toString().trim() ?? '', 10);
  return channels > 0 ? soundSamples(input(file), channels) : undefined;
}
