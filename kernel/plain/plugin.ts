// Lets tests import the kernel's sources as plain TypeScript: `import('../assembly/finish/diffuse?plain')`.

import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { offersOf, translate, type Offers } from './translate';

const PLAIN = '?plain';
const machine = fileURLToPath(new URL('./machine.ts', import.meta.url));

const fileOf = (from: string, module: string): string => {
  const path = join(dirname(from), module);
  return existsSync(`${path}.ts`) ? `${path}.ts` : join(path, 'index.ts');
};

export function plainKernel() {
  const known = new Map<string, Offers>();
  const offered = (file: string): Offers => {
    const offers = known.get(file) ?? offersOf(file, readFileSync(file, 'utf8'));
    known.set(file, offers);
    return offers;
  };
  return {
    name: 'plain-kernel',
    enforce: 'pre' as const,
    resolveId(id: string, importer?: string) {
      if (id === '@machine') return machine;
      if (!importer || !id.startsWith('.')) return null;
      if (id.endsWith(PLAIN)) return fileOf(importer, id.slice(0, -PLAIN.length)) + PLAIN;
      return importer.endsWith(PLAIN) ? fileOf(importer.slice(0, -PLAIN.length), id) + PLAIN : null;
    },
    load(id: string) {
      if (!id.endsWith(PLAIN)) return null;
      const file = id.slice(0, -PLAIN.length);
      return translate(file, readFileSync(file, 'utf8'), (module) => offered(fileOf(file, module)));
    },
  };
}
