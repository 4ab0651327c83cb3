import { spawn } from 'node:child_process';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { blend, type BlendId } from '../../core';
import { leaf } from '../../core/image';
import { Engine } from '../../core/engine';

/** Every 8-bit value over every other. */
const N = 256;
const below = Uint8Array.from({ length: N * N }, (_, i) => i % N),
  above = Uint8Array.from({ length: N * N }, (_, i) => Math.floor(i / N));

async function byFfmpeg(mode: string): Promise<Float32Array> {
  const folder = await mkdtemp(join(tmpdir(), 'blend-'));
  const floats = (v: Uint8Array) => Buffer.from(Float32Array.from(v, (x) => x / 255).buffer);
  await Promise.all([
    writeFile(join(folder, 'below'), floats(below)),
    writeFile(join(folder, 'above'), floats(above)),
  ]);
  // In floats: with integers FFmpeg rounds the half where overlay and hard light change their
  // formula.
  const grey = ['-f', 'rawvideo', '-pix_fmt', 'grayf32le', '-s', `${N}x${N}`];
  // Most of FFmpeg's formulas take the lower picture first.
  const order =
    mode === 'normal' || mode === 'linearlight' ? ['above', 'below'] : ['below', 'above'];
  const args = ['-v', 'error', ...order.flatMap((name) => [...grey, '-i', join(folder, name)])];
  const child = spawn(
    'ffmpeg',
    [
      ...args,
      '-filter_complex',
      `[0][1]blend=all_mode=${mode}`,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'grayf32le',
      '-',
    ],
    {
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  const parts: Buffer[] = [];
  for await (const part of child.stdout) parts.push(part as Buffer);
  return new Float32Array(new Uint8Array(Buffer.concat(parts)).buffer);
}

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
function byUs(id: BlendId): Float32Array {
  const encoded = (v: Uint8Array) =>
    leaf(
      [0, 1, 2].map(() => Float32Array.from(v, (x) => x / 255)),
      N,
      N,
      'encoded',
    );
  return engine.memory.plane(engine.compute(blend(id, encoded(below), encoded(above), 1)), 0);
}

/**
 * Modes with the same formula in both; soft light, colour dodge and colour burn differ in the
 * standard's special cases.
 */
const SAME: readonly (readonly [BlendId, string])[] = [
  ['normal', 'normal'],
  ['multiply', 'multiply'],
  ['screen', 'screen'],
  ['overlay', 'overlay'],
  ['hard-light', 'hardlight'],
  ['lighten', 'lighten'],
  ['darken', 'darken'],
  ['difference', 'difference'],
  ['exclusion', 'exclusion'],
  ['add', 'addition'],
  ['subtract', 'subtract'],
  ['linear-light', 'linearlight'],
];

describe('blend modes beside FFmpeg on every pair of 8-bit values', () => {
  it.each(SAME)('%s is within 1/255 of its %s', async (id, mode) => {
    const theirs = await byFfmpeg(mode),
      ours = byUs(id);
    let most = 0;
    const held = (v: number) => Math.max(0, Math.min(1, v));
    for (let i = 0; i < N * N; i++)
      most = Math.max(most, Math.abs(held(ours[i]!) - held(theirs[i]!)));
    expect(most).toBeLessThanOrEqual(1 / 255);
  });
});
