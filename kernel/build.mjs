// Compiles the modules when their sources are newer than what was built.
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const here = fileURLToPath(new URL('.', import.meta.url));
process.chdir(here);
const newest = (folder) =>
  Math.max(...readdirSync(folder, { recursive: true }).map((name) => statSync(`${folder}/${name}`).mtimeMs));
const built = statSync('build/meshModule.ts', { throwIfNoEntry: false });
const TRACER = 'assembly/index.ts';
/** The tracer for memory that workers share, and for one worker alone where sharing is not allowed; the passes over meshes. */
const modules = {
  'build/kernel.wasm': [TRACER, '64', '--enable', 'simd,threads,bulk-memory', '--sharedMemory'],
  'build/kernel.single.wasm': [TRACER, '64', '--enable', 'simd,bulk-memory'],
  'build/mesh.wasm': ['assembly/mesh/index.ts', '2', '--enable', 'bulk-memory'],
};
if (!built || built.mtimeMs < Math.max(newest('assembly'), statSync('build.mjs').mtimeMs)) {
  mkdirSync('build', { recursive: true });
  for (const [file, [source, pages, ...flags]] of Object.entries(modules)) {
    const { error, stderr } = await asc.main([
      source,
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
      pages,
      '--maximumMemory',
      '65536',
      '--noExportMemory',
    ]);
    if (error) {
      console.error(stderr.toString());
      process.exit(1);
    }
  }
  // Small, and wanted at once wherever meshes are, it is part of the code.
  const text = readFileSync('build/mesh.wasm').toString('base64');
  writeFileSync('build/meshModule.ts', `export const MESH_MODULE = '${text}';\n`);
}
