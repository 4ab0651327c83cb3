// Draws a vector picture as pixels, in a process of its own: whoever started it can end it.
// Arguments: from, to, lines, widest.
import { readFileSync } from 'node:fs';
import sharp from 'sharp';

const [from, to, lines, widest] = process.argv.slice(2);
/** Points to the inch at which a vector picture is as large as it says. */
const PLAIN = 72;
try {
  const bytes = readFileSync(from);
  const { width, height } = await sharp(bytes).metadata();
  const scale = Math.min(Number(lines) / height, Number(widest) / width);
  await sharp(bytes, { density: Math.max(1, Math.min(100_000, PLAIN * scale)) })
    .resize({
      width: Math.max(1, Math.round(width * scale)),
      height: Math.max(1, Math.round(height * scale)),
      fit: 'fill',
    })
    .toColourspace('srgb')
    .ensureAlpha()
    .png()
    .toFile(to);
} catch (e) {
  console.error(e.message);
  process.exitCode = 1;
}
