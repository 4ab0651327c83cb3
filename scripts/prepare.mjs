// Installs what is missing: Debian's packages, then the npm packages. Plain JavaScript, since
// nothing is there yet.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));

const has = (tool) => spawnSync('sh', ['-c', `command -v ${tool}`]).status === 0;
/** The newest PostgreSQL's programs as Debian lays them out. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const newest = readdirSync(base)
    .sort((a, b) => Number(b) - Number(a))
    .find((v) => existsSync(join(base, v, 'bin', 'initdb')));
  return newest && join(base, newest, 'bin');
}

/** Debian packages that are needed and not there. */
function missing(browser) {
  return [
    ...(has('ffmpeg') && has('ffprobe') ? [] : ['ffmpeg']),
    ...(postgresPrograms() ? [] : ['postgresql']),
    ...(browser && !existsSync('/usr/bin/chromium') ? ['chromium'] : []),
  ];
}

function installDebian(packages) {
  if (packages.length === 0) return;
  const asRoot = process.getuid() === 0 ? [] : ['sudo', '-n'];
  console.log(`installing from Debian: ${packages.join(', ')}`);
  const apt = (...args) =>
    execFileSync([...asRoot, 'apt-get'][0], [...[...asRoot, 'apt-get'].slice(1), ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  try {
    apt('update', '-qq');
    // The packages' own database is not wanted: ours is started with the application.
    apt('install', '-y', '-qq', '--no-install-recommends', ...packages);
  } catch {
    throw new Error(
      `could not install ${packages.join(', ')}: run "apt-get install ${packages.join(' ')}" as root and start again`,
    );
  }
}

function installNpm() {
  const mark = join(root, 'node_modules/.package-lock.json');
  if (
    existsSync(mark) &&
    statSync(mark).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs - 2000 &&
    sameLock()
  )
    return;
  console.log('installing npm packages');
  // Not `npm ci`: it wants optional packages of other platforms, which a lock file written without
  // addresses does not name.
  execFileSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
  });
}
function sameLock() {
  const names = (file) =>
    Object.entries(JSON.parse(readFileSync(join(root, file), 'utf8')).packages)
      .filter(([k, v]) => k && !v.optional)
      .map(([k, v]) => `${k}@${v.version}`)
      .sort()
      .join();
  return names('package-lock.json') === names('node_modules/.package-lock.json');
}

export function prepare({ browser = false } = {}) {
  if (Number(process.versions.node.split('.')[0]) < 20)
    throw new Error(`Node.js 20 or newer is needed, this is ${process.versions.node}`);
  installDebian(missing(browser));
  installNpm();
}
