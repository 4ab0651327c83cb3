// Bundles parts of the application for Node: made anew when their sources changed. What is loaded
// file by file as TypeScript
// starts slower and, with a name given to every function as it is made, plans frames at half the
// speed.
import { copyFileSync, existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { root } from './prepare.mjs';

/** The latest change of any source below a folder. */
function latest(folder) {
  let most = 0;
  for (const e of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, e.name);
    most = Math.max(
      most,
      e.isDirectory() ? latest(path) : /\.(ts|json|mjs)$/.test(e.name) ? statSync(path).mtimeMs : 0,
    );
  }
  return most;
}
const ROOMS = ['core', 'server', 'cli', 'bench'];
const sources = () =>
  Math.max(
    statSync(join(root, 'package-lock.json')).mtimeMs,
    ...ROOMS.map((f) => latest(join(root, f))),
  );

/**
 * What code finds beside itself: a helper thread of the engine, and the process that draws vector
 * files.
 */
const BESIDE = { helper: 'cli/helper.ts' };
const COPIED = ['server/media/draw-vector.mjs'];

/**
 * `entry` as `main.mjs` in a folder of the checkout; its path. With `whole` packages are part of
 * it, for a quick start.
 */
export function bundled(entry, folder, { whole = false } = {}) {
  const out = join(root, folder),
    main = join(out, 'main.mjs');
  if (existsSync(main) && statSync(main).mtimeMs >= sources()) return main;
  mkdirSync(out, { recursive: true });
  // Asked for only where something is to be made.
  const { buildSync } = createRequire(import.meta.url)('esbuild');
  buildSync({
    entryPoints: Object.fromEntries(
      Object.entries({ main: entry, ...BESIDE }).map(([name, file]) => [name, join(root, file)]),
    ),
    outdir: out,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    tsconfig: join(root, 'tsconfig.json'),
    sourcemap: whole ? false : 'linked',
    ...(whole
      ? {
          external: ['sharp', 'pg-native'],
          // Packages in the older form of modules ask for Node's own by `require`.
          banner: {
            js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
          },
        }
      : { packages: 'external' }),
    logLevel: 'error',
  });
  for (const file of COPIED) copyFileSync(join(root, file), join(out, file.split('/').at(-1)));
  return main;
}

// node scripts/bundle.mjs <entry> <folder>
if (process.argv[1]?.endsWith('bundle.mjs')) console.log(bundled(process.argv[2], process.argv[3]));
