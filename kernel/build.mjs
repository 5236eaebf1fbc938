// Compiles the kernel when its sources are newer than the module.
import { mkdirSync, readdirSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const here = fileURLToPath(new URL('.', import.meta.url));
process.chdir(here);
const newest = (folder) => Math.max(...readdirSync(folder).map((name) => statSync(`${folder}/${name}`).mtimeMs));
const built = statSync('build/kernel.single.wasm', { throwIfNoEntry: false });
/** The same module for memory that workers share, and for one worker alone where sharing is not allowed. */
const forms = {
  'build/kernel.wasm': ['--enable', 'simd,threads,bulk-memory', '--sharedMemory'],
  'build/kernel.single.wasm': ['--enable', 'simd,bulk-memory'],
};
if (!built || built.mtimeMs < Math.max(newest('assembly'), statSync('build.mjs').mtimeMs)) {
  mkdirSync('build', { recursive: true });
  for (const [file, flags] of Object.entries(forms)) {
    const { error, stderr } = await asc.main([
      'assembly/index.ts',
      '--outFile',
      file,
      '-O3',
      '--noAssert',
      '--runtime',
      'stub',
      ...flags,
      '--disable',
      'nontrapping-f2i',
      '--importMemory',
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
}
