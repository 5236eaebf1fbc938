import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

/** The tracer's compiled module, from where it is installed. */
export async function compileKernel(): Promise<WebAssembly.Module> {
  return WebAssembly.compile(await readFile(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')));
}
