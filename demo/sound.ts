/** Synthesises the sounds recorded on the demo's clips: 48 kHz mono PCM written as a wave file. */
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const RATE = 48_000;

function noiseSource(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2147483648 - 1;
  };
}

/** A drum's thump twice a second over the sea's hiss, or the hiss alone. */
function samples(kind: 'beat' | 'wash', seconds: number): Int16Array {
  const out = new Int16Array(Math.round(seconds * RATE));
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
    out[i] = Math.round(Math.max(-1, Math.min(1, sea + thump)) * 28_000);
  }
  return out;
}

/** Writes the sound to a temporary wave file and returns its path. */
export function soundFile(kind: 'beat' | 'wash', seconds: number): string {
  const pcm = samples(kind, seconds);
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + pcm.byteLength, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(RATE, 24);
  head.writeUInt32LE(RATE * 2, 28);
  head.writeUInt16LE(2, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(pcm.byteLength, 40);
  const file = join(tmpdir(), `wabisabi-${kind}.wav`);
  writeFileSync(file, Buffer.concat([head, Buffer.from(pcm.buffer)]));
  return file;
}
