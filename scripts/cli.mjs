// npm run cli -- …: the command line from one bundled file, made anew when its sources changed; it starts in a fraction of a second.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

const root = new URL('..', import.meta.url).pathname;
const out = join(root, 'dist-cli');
const main = join(out, 'main.mjs');

/** The latest change of any source below a folder. */
function latest(folder) {
  let most = 0;
  for (const e of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, e.name);
    most = Math.max(most, e.isDirectory() ? latest(path) : /\.(ts|json|mjs)$/.test(e.name) ? statSync(path).mtimeMs : 0);
  }
  return most;
}
const sources = () => Math.max(statSync(join(root, 'package-lock.json')).mtimeMs, ...['core', 'server', 'cli'].map((f) => latest(join(root, f))));

if (!existsSync(main) || statSync(main).mtimeMs < sources()) {
  const { build } = await import('esbuild');
  await build({
    entryPoints: { main: join(root, 'cli/main.ts'), helper: join(root, 'cli/helper.ts') },
    outdir: out,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    tsconfig: join(root, 'tsconfig.json'),
    external: ['sharp', 'pg-native'],
    // Packages in the older form of modules ask for Node's own by `require`.
    banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
    logLevel: 'error',
  });
}
await import(pathToFileURL(main).href);
