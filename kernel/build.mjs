// Compiles the kernel when its sources are newer than the module.
import { mkdirSync, readdirSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const here = fileURLToPath(new URL('.', import.meta.url));
process.chdir(here);
const newest = (folder) => Math.max(...readdirSync(folder).map((name) => statSync(`${folder}/${name}`).mtimeMs));
const built = statSync('build/kernel.wasm', { throwIfNoEntry: false });
if (!built || built.mtimeMs < Math.max(newest('assembly'), statSync('build.mjs').mtimeMs)) {
  mkdirSync('build', { recursive: true });
  const { error, stderr } = await asc.main([
    'assembly/index.ts',
    '--outFile',
    'build/kernel.wasm',
    '-O3',
    '--noAssert',
    '--runtime',
    'stub',
    '--enable',
    'simd,threads,bulk-memory',
    '--disable',
    'nontrapping-f2i',
    '--importMemory',
    '--sharedMemory',
    '--initialMemory',
    '64',
    '--maximumMemory',
    '65536',
    '--noExportMemory',
  ]);
  if (error) {
    console.error(stderr.toString());
    process.exit(1);
  }
}
