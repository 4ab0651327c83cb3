/** Synthesises the sounds recorded on the demo's clips, and writes 48 kHz PCM as wave files. */
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Samples a second of all demo sounds. */
export const RATE = 48_000;

/** White noise −1…1, the same for a seed. */
export function noiseSource(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2147483648 - 1;
  };
}

/** A drum's thump twice a second over the sea's hiss, or the hiss alone. */
function samples(kind: 'beat' | 'wash', seconds: number): Float64Array {
  const out = new Float64Array(Math.round(seconds * RATE));
  const noise = noiseSource(kind === 'beat' ? 7 : 11);
  let low = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    low += (noise() - low) * 0.06;
    const sea = low * (0.5 + 0.3 * Math.sin(t * 1.7));
    const since = t % 0.5;
    const thump =
      kind === 'beat'
        ? Math.sin(2 * Math.PI * (52 * since + 3.2 * (1 - Math.exp(-since * 24)))) *
          Math.exp(-since * 9) *
          0.7
        : 0;
    out[i] = Math.max(-1, Math.min(1, sea + thump)) * (28_000 / 32_768);
  }
  return out;
}

/** Writes the sound to a temporary wave file and returns its path. */
export function soundFile(kind: 'beat' | 'wash', seconds: number): string {
  const file = join(tmpdir(), `wabisabi-${kind}.wav`);
  writeWave(file, [samples(kind, seconds)]);
  return file;
}

/** Writes channels of samples −1…1 as 16-bit PCM. */
export function writeWave(file: string, channels: readonly Float64Array[]): void {
  const length = channels[0]!.length,
    n = channels.length;
  const pcm = Int16Array.from({ length: length * n }, (_, i) =>
    Math.round(Math.max(-1, Math.min(1, channels[i % n]![Math.floor(i / n)]!)) * 32_767),
  );
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + pcm.byteLength, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(n, 22);
  head.writeUInt32LE(RATE, 24);
  head.writeUInt32LE(RATE * 2 * n, 28);
  head.writeUInt16LE(2 * n, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(pcm.byteLength, 40);
  writeFileSync(file, Buffer.concat([head, Buffer.from(pcm.buffer)]));
}
