// npm run map: the rooms of core, server and web and which others each uses, read from the imports, as ARCHITECTURE
// draws them. `-- --check` compares.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const FILE = join(root, 'ARCHITECTURE.md');
const [BEGIN, END] = ['<!-- map: npm run map -->', '<!-- end of map -->'];
const found = JSON.parse(
  execFileSync(
    join(root, 'node_modules/.bin/depcruise'),
    ['--config', '.dependency-cruiser.cjs', '--output-type', 'json', 'core', 'server', 'web'],
    { cwd: root, encoding: 'utf8', maxBuffer: 2 ** 28 },
  ),
);

/** The rooms of one part, a line each: those that stand on most first, each with its nearest. */
function drawn(part) {
  const roomOf = (path) => new RegExp(`^${part}/([^/]+)/`).exec(path)?.[1];
  const uses = new Map();
  for (const { source, dependencies } of found.modules) {
    const room = roomOf(source);
    if (!room || /\.test\.|^(server|web)\/testing\//.test(source)) continue;
    const own = uses.get(room) ?? uses.set(room, new Set()).get(room);
    for (const { resolved } of dependencies) {
      const other = roomOf(resolved);
      if (other && other !== room) own.add(other);
    }
  }
  /** How many rooms lie below one, at the longest. */
  const depth = (room) => Math.max(0, ...[...(uses.get(room) ?? [])].map((r) => depth(r) + 1));
  const byDepth = (a, b) => depth(b) - depth(a) || a.localeCompare(b);
  const below = (room) => new Set([...(uses.get(room) ?? [])].flatMap((r) => [r, ...below(r)]));
  /** Only the nearest: what a used room uses itself goes without saying. */
  const nearest = (room) => {
    const all = [...uses.get(room)];
    const through = new Set(all.flatMap((r) => [...below(r)]));
    return all.filter((r) => !through.has(r)).sort(byDepth);
  };
  const rooms = [...uses.keys()].sort(byDepth);
  const width = Math.max(part.length, ...rooms.map((r) => r.length));
  const lines = rooms.map((r) => `${r.padEnd(width)}  ${nearest(r).join(', ') || '·'}`);
  return `${part.padEnd(width)}  stands on\n${lines.join('\n')}`;
}
const map = `${BEGIN}\n\n\`\`\`\n${['core', 'server', 'web'].map(drawn).join('\n\n')}\n\`\`\`\n\n${END}`;
const text = readFileSync(FILE, 'utf8');
const next = text.replace(new RegExp(`${BEGIN}[\\s\\S]*${END}`), map);
if (process.argv.includes('--check')) {
  if (next !== text) {
    console.error('the map in ARCHITECTURE.md is not the tree: run npm run map');
    process.exit(1);
  }
} else writeFileSync(FILE, next);
console.log(map);
