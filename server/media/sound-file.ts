/** Sound files: what they hold, how loud they are, and what pages need of them. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  keptLoudness,
  LoudnessMeter,
  PEAK_ZOOMS,
  PeakMeter,
  type PeakZoom,
  SOUND_RATE,
  type SoundFacts,
} from '../../core';
import { NotFootage } from './footage';
import { input, inPlainWords, isDiskFull, run, ToolFailed } from './run';
import { BEATS_RATE, beatsIn } from './beats';
import { monoOfFile, soundBlocks } from './sound-samples';

/** All samples at `SOUND_RATE`, as pages play them and renders read them. */
export const SAMPLES_FILE = 'samples.flac';
/** File of a waveform at a zoom: pairs of 16-bit integers, little-endian. */
export const peaksFile = (zoom: PeakZoom): string => `peaks-${zoom}.bin`;
/** Most channels that are read, and most minutes. */
const MOST_CHANNELS = 8,
  MOST_MINUTES = 240;
/** Seconds of sounds in which beats are looked for. */
const FEWEST_OF_BEATS = 4,
  MOST_OF_BEATS = 30 * 60;

interface Stream {
  readonly codec_type?: string;
  readonly codec_name?: string;
  readonly channels?: number;
  readonly sample_rate?: string;
  readonly disposition?: { readonly attached_pic?: number };
}
interface Described {
  readonly streams?: readonly Stream[];
  readonly format?: { readonly duration?: string };
}
/** What a file holds; undefined if it cannot be told. */
async function described(file: string): Promise<Described | undefined> {
  const shown = ['-show_streams', '-show_format', '-of', 'json', ...input(file)];
  const ran = await run('ffprobe', shown).catch(() => undefined);
  return ran && (JSON.parse(ran.out.toString()) as Described);
}

/** Whether a file holds sound and no moving pictures; a cover's picture does not count. */
export async function isSoundFile(file: string): Promise<boolean> {
  const { streams = [] } = (await described(file)) ?? {};
  return (
    streams.some((s) => s.codec_type === 'audio') &&
    !streams.some((s) => s.codec_type === 'video' && !s.disposition?.attached_pic)
  );
}

/**
 * Reads a sound file through once, and writes its samples and its waveform to a folder. `report` is
 * told a share of the work. Throws `NotFootage` with what to do.
 */
export async function readSoundFile(
  file: string,
  name: string,
  folder: string,
  report: (share: number) => void = () => {},
  signal?: AbortSignal,
): Promise<SoundFacts> {
  const said = await described(file);
  const tracks = said?.streams?.filter((s) => s.codec_type === 'audio') ?? [],
    channels = tracks[0]?.channels ?? 0,
    seconds = Number(said?.format?.duration) || 0;
  if (channels === 0)
    throw new NotFootage(`"${name}" holds no sound that can be read: bring it as WAV or FLAC`);
  if (channels > MOST_CHANNELS)
    throw new NotFootage(
      `"${name}" has ${channels} channels; at most ${MOST_CHANNELS} are read: mix it down first`,
    );
  if (seconds > MOST_MINUTES * 60)
    throw new NotFootage(
      `"${name}" is longer than ${MOST_MINUTES / 60} hours: cut out what you need first`,
    );
  await mkdir(folder, { recursive: true });
  const loudness = new LoudnessMeter(channels),
    peaks = new PeakMeter();
  let samples = 0;
  try {
    const keeps = ['-c:a', 'flac', '-sample_fmt', 's32', join(folder, SAMPLES_FILE)];
    for await (const block of soundBlocks(input(file), channels, { keeps, signal })) {
      loudness.add(block);
      peaks.add(block);
      samples += block[0]!.length;
      if (seconds > 0) report(Math.min(1, samples / (seconds * SOUND_RATE)));
    }
  } catch (e) {
    if (!(e instanceof ToolFailed) || isDiskFull(e)) throw e;
    throw new NotFootage(
      `"${name}" cannot be read as sound (${inPlainWords(e.said).split('\n')[0] || 'no reason given'}): bring it as WAV or FLAC`,
    );
  }
  if (samples === 0)
    throw new NotFootage(`"${name}" holds no sound: it was cut short; copy it again`);
  for (const zoom of PEAK_ZOOMS)
    await writeFile(join(folder, peaksFile(zoom)), new Uint8Array(peaks.at(zoom).buffer));
  return {
    codec: tracks[0]!.codec_name ?? '',
    channels,
    rate: Number(tracks[0]!.sample_rate) || SOUND_RATE,
    tracks: tracks.length,
    samples,
    ...keptLoudness(loudness.result()),
    beats: await beatsOf(file, samples / SOUND_RATE, signal),
  };
}
/** The beats of a sound file; none of one that is too short for a tempo, or a whole concert. */
async function beatsOf(
  file: string,
  seconds: number,
  signal: AbortSignal | undefined,
): Promise<readonly number[]> {
  if (seconds < FEWEST_OF_BEATS || seconds > MOST_OF_BEATS) return [];
  const mono = await monoOfFile(file, BEATS_RATE);
  return mono ? beatsIn(mono, signal) : [];
}
