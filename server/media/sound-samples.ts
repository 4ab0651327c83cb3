/** Sound as samples: decoded to float at one rate, by ffmpeg. */
import { type Channels, type Loudness, LoudnessMeter, SOUND_RATE } from '../../core';
import { input, output, run, streamed } from './run';

const BYTES = 4;

/** Samples of a block. */
const BLOCK = 1 << 16;
const AT_RATE = `aresample=${SOUND_RATE}:async=1:first_pts=0`;

/** Planes of interleaved samples. */
function planesOf(bytes: Buffer, channels: number): Channels {
  const count = Math.floor(bytes.length / (BYTES * channels));
  const planes = Array.from({ length: channels }, () => new Float32Array(count));
  for (let i = 0, at = 0; i < count; i++)
    for (let c = 0; c < channels; c++, at += BYTES) planes[c]![i] = bytes.readFloatLE(at);
  return planes;
}
const asFloats = (channels: number, filters: string, to = '-'): string[] => [
  ...['-map', '0:a:0', '-af', filters],
  ...['-ac', String(channels), '-f', 'f32le', '-c:a', 'pcm_f32le', to],
];
/**
 * Writes the first track of an opened input to a file, as interleaved floats at `SOUND_RATE`. Throws
 * `ToolFailed`.
 */
export const writeSamples = async (
  opened: readonly string[],
  channels: number,
  to: string,
): Promise<void> =>
  void (await run('ffmpeg', [...opened, ...asFloats(channels, AT_RATE, output(to))]));

/**
 * The first track of an opened input, as planes of `SOUND_RATE`; sound that starts late is preceded
 * by silence. `filter`: more filters, after that. Throws `ToolFailed`.
 */
export async function soundSamples(
  opened: readonly string[],
  channels: number,
  filter: readonly string[] = [],
): Promise<Channels> {
  const { out } = await run('ffmpeg', [
    ...opened,
    ...asFloats(channels, [AT_RATE, ...filter].join()),
  ]);
  return planesOf(out, channels);
}

/**
 * The same block by block. `keeps`: what FFmpeg writes of it beside, a codec's options and a file.
 * Throws `ToolFailed`.
 */
export async function* soundBlocks(
  opened: readonly string[],
  channels: number,
  {
    keeps = [],
    signal,
  }: { readonly keeps?: readonly string[]; readonly signal?: AbortSignal | undefined } = {},
): AsyncGenerator<Channels> {
  const beside = keeps.length > 0 ? ['-map', '0:a:0', '-af', AT_RATE, ...keeps] : [];
  const args = [...opened, ...beside, ...asFloats(channels, AT_RATE)];
  for await (const piece of streamed(args, BLOCK * channels * BYTES, signal, true))
    yield planesOf(piece, channels);
}

/** Channels of the first track of a file, whatever else it holds; 0 without one. */
export async function channelsIn(file: string): Promise<number> {
  const shown = ['-select_streams', 'a:0', '-show_entries', 'stream=channels', '-of', 'csv=p=0'];
  const said = await run('ffprobe', [...shown, ...input(file)]).catch(() => undefined);
  return Number.parseInt(said?.out.toString().trim() ?? '', 10) || 0;
}
/** The first track of a file in one channel, at a rate; undefined without one that can be read. */
export async function monoOfFile(file: string, rate: number): Promise<Float32Array | undefined> {
  return (await channelsIn(file)) === 0 ? undefined : monoOf(input(file), rate);
}
/** The first track of an opened input in one channel, at a rate. Throws `ToolFailed`. */
export async function monoOf(
  opened: readonly string[],
  rate: number,
): Promise<Float32Array | undefined> {
  return (await soundSamples(opened, 1, [`aresample=${rate}`]))[0];
}
/** How loud the first track of a file is; undefined without one that can be read. */
export async function loudnessOfFile(file: string): Promise<Loudness | undefined> {
  const channels = await channelsIn(file);
  if (channels === 0) return undefined;
  const meter = new LoudnessMeter(channels);
  for await (const block of soundBlocks(input(file), channels)) meter.add(block);
  return meter.result();
}
