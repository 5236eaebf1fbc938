// Sees to it that NOTICE.md names every package that is shipped or loaded, with its licence: `notices.mjs`, or `notices.mjs --write`
// to write its list anew.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const BEGIN = '<!-- packages: written by scripts/notices.mjs -->';
const END = '<!-- end of packages -->';

/** Names of the packages that what runs depends on, with their licences: all of the lock file but what only builds and tests. */
function shipped() {
  const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  const found = new Map();
  for (const [path, { dev, devOptional, optional, link, license }] of Object.entries(packages)) {
    if (!path.startsWith('node_modules/') || dev || devOptional || link) continue;
    // What is for other systems is not here, and not shipped.
    if (optional && !existsSync(join(root, path))) continue;
    const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
    const own = join(root, path, 'package.json');
    const said = license ?? (existsSync(own) ? JSON.parse(readFileSync(own, 'utf8')).license : undefined);
    found.set(name, typeof said === 'string' ? said : (said?.type ?? 'see the package'));
  }
  return [...found].sort(([a], [b]) => (a < b ? -1 : 1));
}

const list = shipped()
  .map(([name, licence]) => `- ${name}: ${licence}`)
  .join('\n');
const file = join(root, 'NOTICE.md');
const text = readFileSync(file, 'utf8');
const from = text.indexOf(BEGIN);
const to = text.indexOf(END);
const next =
  from < 0
    ? `${text.trimEnd()}\n\n## Packages\n\n${BEGIN}\n\n${list}\n\n${END}\n`
    : `${text.slice(0, from)}${BEGIN}\n\n${list}\n\n${text.slice(to)}`;
if (process.argv.includes('--write')) writeFileSync(file, next);
else {
  // Packages of other systems may stand there too: only what is missing, or under another licence, is a fault.
  const missing = list.split('\n').filter((line) => !text.includes(`${line}\n`));
  if (missing.length > 0) {
    console.error(`NOTICE.md lacks:\n${missing.join('\n')}\nRun: node scripts/notices.mjs --write`);
    process.exit(1);
  }
}
