// Import of the demo STEP through the server over the time of the bare reader on it, both warm.
import { readFileSync } from 'node:fs';
import { mkdtempSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { readCad } from '@zippy/core/intake';
import { startCadKernel } from '@zippy/core/intake/cadKernel';
import { openServices } from '../server/src/services';
import { made } from './demoScene';
import { figure, median } from './figure';

export default async function importStep(): Promise<void> {
  const bytes = readFileSync(made('ferrow-r2.step'));
  const cad = await startCadKernel(
    readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm')),
  );
  const services = await openServices(mkdtempSync(join(tmpdir(), 'zippy-bench-')));
  const through = async () => {
    const start = performance.now();
    const { hash } = await services.blobs.store(Readable.from([bytes]));
    const job = services.imports.start([{ name: 'ferrow-r2.step', hash }]);
    while (services.imports.show(job.id).state === 'reading') await new Promise((resolve) => setTimeout(resolve, 10));
    return performance.now() - start;
  };
  await through();
  const ratios: number[] = [];
  for (let run = 0; run < 3; run++) {
    const start = performance.now();
    readCad(cad, 'step', bytes, 'ferrow-r2.step');
    const bare = performance.now() - start;
    ratios.push((await through()) / bare);
  }
  figure('import.step', median(ratios), { most: 1.1 });
  await services.close();
}
