/**
 * Compiles `core/trace/source/motion.ts` into `core/trace/motion-wasm.ts`, which is kept: nothing is
 * compiled where it is used. With `--check` says whether what is kept is what the source gives.
 */
import { readFile, writeFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

const SOURCE = 'core/trace/source/motion.ts',
  KEPT = 'core/trace/motion-wasm.ts';
const files = new Map();
const { error, stderr } = await asc.main(
  [
    SOURCE,
    '--outFile',
    'motion.wasm',
    '--optimizeLevel',
    '3',
    '--shrinkLevel',
    '0',
    '--enable',
    'simd',
    '--runtime',
    'stub',
    '--noAssert',
    '--importMemory',
  ],
  { writeFile: (name, contents) => void files.set(name, contents) },
);
if (error) {
  console.error(stderr.toString());
  process.exit(1);
}
const made = `/** Made from \`${SOURCE}\` by \`npm run trace-kernels\`. */\nexport const MOTION_WASM =\n  '${Buffer.from(files.get('motion.wasm')).toString('base64')}';\n`;
if (!process.argv.includes('--check')) await writeFile(KEPT, made);
else if ((await readFile(KEPT, 'utf8').catch(() => '')) !== made) {
  console.error(`${KEPT} is not what ${SOURCE} gives: npm run trace-kernels`);
  process.exit(1);
}
