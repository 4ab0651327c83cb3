/** Vector pictures, drawn to pixels once; only the pixels are kept. */
import { execFile } from 'node:child_process';
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { SaxesParser } from 'saxes';
import { NotFootage } from './footage';
import { inPlainWords } from './run';

/** Height of the drawn picture in lines, and its largest width in pixels. */
const LINES = 2160,
  WIDEST = 7680;
const MOST_BYTES = 8 * 2 ** 20;
/** Limits for drawing: time (ms) and memory (MiB). */
const LONGEST = 20_000,
  MOST_MEMORY = 1024;

/** The first picture that an SVG shows and does not hold; undefined if it holds all. */
export function linkedIn(svg: string): string | undefined {
  let found: string | undefined;
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    if (!/^(?:\w+:)?(?:image|feImage)$/.test(name)) return;
    const href = String(attributes['href'] ?? attributes['xlink:href'] ?? '').trim();
    if (href !== '' && !/^(?:data:|#)/i.test(href)) found ??= href.slice(0, 80);
  });
  // Whether it is XML at all is found out when it is drawn.
  parser.on('error', () => {});
  parser.write(svg).close();
  return found;
}

/**
 * Draws an SVG file as a PNG with coverage, `LINES` high. It can access neither files nor the
 * network. Throws `NotFootage`.
 */
export async function drawVector(
  path: string,
  to: string,
  name = basename(path),
  signal?: AbortSignal,
): Promise<void> {
  if ((await stat(path)).size > MOST_BYTES)
    throw new NotFootage(
      `"${name}" is larger than ${MOST_BYTES / 2 ** 20} MiB: bring it as a PNG instead`,
    );
  const linked = linkedIn(await readFile(path, 'utf8'));
  if (linked !== undefined)
    throw new NotFootage(
      `"${name}" shows a picture that is not in it ("${linked}"), and would be drawn without: ` +
        'embed it, or bring a PNG',
    );
  const script = fileURLToPath(new URL('./draw-vector.mjs', import.meta.url));
  const options = { timeout: LONGEST, killSignal: 'SIGKILL' as const, ...(signal && { signal }) };
  try {
    await promisify(execFile)(
      process.execPath,
      [`--max-old-space-size=${MOST_MEMORY}`, script, path, to, String(LINES), String(WIDEST)],
      options,
    );
  } catch (e) {
    if (signal?.aborted) throw e;
    const { killed, stderr } = e as { killed?: boolean; stderr?: string };
    const why = killed
      ? `it takes longer than ${LONGEST / 1000} seconds`
      : inPlainWords(stderr ?? '').split('\n')[0] || 'no reason given';
    throw new NotFootage(
      `"${name}" cannot be drawn (${why}): export it again, or bring it as a PNG`,
    );
  }
}
