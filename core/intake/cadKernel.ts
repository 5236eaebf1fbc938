import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import type { CadKernel } from './cad';

/** Compiling takes most of the time of a start: a kernel that a broken file has upset starts again without it. */
let compiled: Promise<WebAssembly.Module> | null = null;

/**
 * Starts the CAD kernel from its WebAssembly bytes. Takes seconds the first time: keep it for all files that follow.
 * Runs in Node only, and so is not part of the folder's index, which the page bundles too.
 */
export async function startCadKernel(wasm: Uint8Array<ArrayBuffer>): Promise<CadKernel> {
  compiled ??= WebAssembly.compile(wasm).catch((error: unknown) => {
    compiled = null;
    throw error;
  });
  const module = await compiled;
  // The package's script is an ES module that still asks for the names of the older module system.
  const require = createRequire(import.meta.url);
  const script = require.resolve('opencascade.js/dist/opencascade.full.js');
  Object.assign(globalThis, { require, __dirname: dirname(script) });
  const { default: start } = (await import('opencascade.js/dist/opencascade.full.js')) as {
    default: (options: object) => Promise<CadKernel>;
  };
  const silent = () => undefined;
  return new Promise((resolve, reject) => {
    const instantiateWasm = (imports: WebAssembly.Imports, done: (instance: WebAssembly.Instance) => void) => {
      // The script itself would wait for ever for an instance that cannot be made.
      WebAssembly.instantiate(module, imports).then(done, reject);
      return {};
    };
    start({ instantiateWasm, print: silent, printErr: silent }).then(resolve, reject);
  });
}
