import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import type { CadKernel } from './cad';

/**
 * Starts the CAD kernel from its WebAssembly bytes. Takes seconds: keep it for all files that follow.
 * Runs in Node only, and so is not part of the folder's index, which the page bundles too.
 */
export async function startCadKernel(wasm: Uint8Array): Promise<CadKernel> {
  // The package's script is an ES module that still asks for the names of the older module system.
  const require = createRequire(import.meta.url);
  const script = require.resolve('opencascade.js/dist/opencascade.full.js');
  Object.assign(globalThis, { require, __dirname: dirname(script) });
  const { default: start } = (await import('opencascade.js/dist/opencascade.full.js')) as {
    default: (options: object) => Promise<CadKernel>;
  };
  const silent = () => undefined;
  return start({ wasmBinary: wasm, print: silent, printErr: silent });
}
