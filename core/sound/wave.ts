/** Wave files in float (RIFF, IEEE float). */
import type { Channels } from './retimed';

const IEEE_FLOAT = 3,
  HEAD = 44,
  BYTES = 4;

/** The head of a wave file of so many samples a channel. */
export function waveHead(channels: number, count: number, rate: number): Uint8Array {
  const bytes = count * channels * BYTES;
  const head = new DataView(new ArrayBuffer(HEAD));
  const word = (at: number, text: string): void =>
    [...text].forEach((c, i) => head.setUint8(at + i, c.charCodeAt(0)));
  word(0, 'RIFF');
  head.setUint32(4, HEAD - 8 + bytes, true);
  word(8, 'WAVEfmt ');
  head.setUint32(16, 16, true);
  head.setUint16(20, IEEE_FLOAT, true);
  head.setUint16(22, channels, true);
  head.setUint32(24, rate, true);
  head.setUint32(28, rate * channels * BYTES, true);
  head.setUint16(32, channels * BYTES, true);
  head.setUint16(34, 8 * BYTES, true);
  word(36, 'data');
  head.setUint32(40, bytes, true);
  return new Uint8Array(head.buffer);
}

/** Planes of samples as wave files hold them: a sample of each channel after the other. */
export function interleaved(planes: Channels): Float32Array<ArrayBuffer> {
  const count = planes[0]?.length ?? 0,
    out = new Float32Array(count * planes.length);
  planes.forEach((plane, c) => {
    for (let i = 0; i < count; i++) out[i * planes.length + c] = plane[i]!;
  });
  return out;
}
