// Brings a machine to where this project runs: packages, programs, builds. Does only what is missing.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
process.chdir(root);

/** Runs a command with its output shown; ends the script where it fails. */
export function run(command, args, env = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
  if (status !== 0) process.exit(status ?? 1);
}

const works = (command) => spawnSync('sh', ['-c', 'command -v "$0"', command], { stdio: 'ignore' }).status === 0;

/** Installs the packages of the lock file, if it changed since the last time. */
export function packages() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) {
    console.error(`Node.js 20 or newer is needed; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const stamp = 'node_modules/.installed';
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages (about three minutes the first time)…');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
}

/** Installs Debian packages whose programs are missing. `needed`: program → package. */
export function programs(needed, optional = false) {
  const missing = Object.entries(needed).filter(([program]) => !works(program));
  if (missing.length === 0) return;
  const names = missing.map(([, name]) => name);
  console.log(`Installing ${names.join(', ')}…`);
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) =>
    spawnSync([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1), {
      stdio: 'inherit',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  apt('update', '-qq');
  const { status } = apt('install', '-y', '-qq', ...names);
  if (status === 0) return;
  console.error(
    `Could not install ${names.join(', ')}. Install it by hand${optional ? '; everything else works without it' : ' and start again'}.`,
  );
  if (!optional) process.exit(1);
}

function newest(folder) {
  let most = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    if (entry.isFile()) most = Math.max(most, statSync(join(entry.parentPath, entry.name)).mtimeMs);
  }
  return most;
}

/** Builds kernel, server and page where sources are newer than what was built. */
export function build() {
  run('npm', ['run', 'build:kernel', '--silent']);
  const sources = Math.max(
    ...['kernel/assembly', 'core', 'server/src', 'web/src'].map(newest),
    statSync('package-lock.json').mtimeMs,
  );
  const stamp = 'server/dist/.built';
  if (existsSync(stamp) && existsSync('web/dist/index.html') && statSync(stamp).mtimeMs > sources) return;
  console.log('Building…');
  run('npm', ['run', 'build:server', '--silent']);
  run('npm', ['run', 'build:web', '--silent']);
  mkdirSync('server/dist', { recursive: true });
  writeFileSync(stamp, '');
}
