/** Sounds at random: any stretch of their samples, to the sample, from plain files of floats. */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Channels } from '../../core';
import { writeSamples } from './sound-samples';

const BYTES = 4;

/** A sound's samples in a file: interleaved 32-bit floats, little-endian, at `SOUND_RATE`. */
export interface SampleFile {
  readonly file: string;
  readonly channels: number;
}

const making = new Map<string, Promise<void>>();
/**
 * Makes the file of samples of an opened input's first track, unless it is there. Written whole; a
 * file is never half. Throws `ToolFailed`.
 */
export async function makeSamples(
  opened: readonly string[],
  { file, channels }: SampleFile,
): Promise<void> {
  const isThere = await stat(file).then(
    () => true,
    () => false,
  );
  if (isThere) return;
  const known = making.get(file);
  if (known) return known;
  const make = async (): Promise<void> => {
    await mkdir(dirname(file), { recursive: true });
    const part = `${file}.${randomUUID()}`;
    try {
      await writeSamples(opened, channels, part);
      await rename(part, file);
    } finally {
      await rm(part, { force: true });
    }
  };
  const made = make().finally(() => making.delete(file));
  making.set(file, made);
  return made;
}

/** Samples `first` to `first + count − 1`; silent before the first and after the last. */
export async function samplesAt(
  { file, channels }: SampleFile,
  first: number,
  count: number,
): Promise<Channels> {
  const planes = Array.from({ length: channels }, () => new Float32Array(count));
  const from = Math.max(0, first),
    each = BYTES * channels;
  const wanted = Math.max(0, first + count - from);
  const of = await open(file, 'r');
  try {
    const bytes = Buffer.alloc(wanted * each);
    const { bytesRead } = await of.read(bytes, 0, bytes.length, from * each);
    const there = Math.floor(bytesRead / each),
      after = from - first;
    for (let i = 0, at = 0; i < there; i++)
      for (let c = 0; c < channels; c++, at += BYTES) planes[c]![after + i] = bytes.readFloatLE(at);
  } finally {
    await of.close();
  }
  return planes;
}
