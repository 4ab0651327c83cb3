/** Vector pictures, drawn once as pixels: the only form of them that is kept. */
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import sharp from 'sharp';
import { NotFootage } from './footage';

/** Lines of the picture that is drawn, and the most pixels along a row. */
const LINES = 2160,
  WIDEST = 7680;
const MOST_BYTES = 8 * 2 ** 20;
/** Points to the inch at which a vector picture is as large as it says. */
const PLAIN = 72;

/** Draws an SVG file as a PNG with coverage, `LINES` high. It can reach neither files nor the network. Throws `NotFootage`. */
export async function drawVector(path: string, to: string): Promise<void> {
  const name = basename(path);
  if ((await stat(path)).size > MOST_BYTES) throw new NotFootage(`"${name}" is larger than ${MOST_BYTES / 2 ** 20} MiB: bring it as a PNG instead`);
  const bytes = await readFile(path);
  try {
    const { width, height } = await sharp(bytes).metadata();
    const scale = Math.min(LINES / height, WIDEST / width);
    await sharp(bytes, { density: Math.max(1, Math.min(100_000, PLAIN * scale)) })
      .resize({ width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)), fit: 'fill' })
      .toColourspace('srgb')
      .ensureAlpha()
      .png()
      .toFile(to);
  } catch (e) {
    throw new NotFootage(`"${name}" cannot be drawn (${(e as Error).message.split('\n')[0]}): export it again, or bring it as a PNG`);
  }
}
