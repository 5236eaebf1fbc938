// First load of the page as it comes over the wire, compressed, without the picture's code.
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { figure } from './figure';

export default async function page(): Promise<void> {
  const dist = fileURLToPath(new URL('../web/dist/', import.meta.url));
  const index = readFileSync(`${dist}index.html`, 'utf8');
  const first = readdirSync(dist).filter((name) => index.includes(name) || name === 'index.html');
  const bytes = first.reduce((sum, name) => sum + gzipSync(readFileSync(dist + name)).length, 0);
  figure('page.firstLoadKilobytes', bytes / 1000, { most: 400 });
}
