import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { runInThisContext } from 'node:vm';
import type { CadKernel } from './cad';

type Start = (options: object) => Promise<CadKernel>;

/** Compiling takes long: a kernel that a broken file has upset starts again without it. */
let compiled: Promise<{ module: WebAssembly.Module; start: Start }> | null = null;

/**
 * Starts the CAD kernel from its WebAssembly bytes. Takes seconds the first time: keep it for all files that follow.
 * Runs in Node only, and so is not part of the folder's index, which the page bundles too.
 */
export async function startCadKernel(wasm: Uint8Array<ArrayBuffer>): Promise<CadKernel> {
  compiled ??= Promise.all([WebAssembly.compile(wasm), loadScript()])
    .then(([module, start]) => ({ module, start }))
    .catch((error: unknown) => {
      compiled = null;
      throw error;
    });
  const { module, start } = await compiled;
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

/**
 * What the package's script does for each of its tens of thousands of functions is to compile a text of its own, which takes most
 * of a start. With names left out of the texts there are only some hundreds of them, and each is compiled once.
 */
const QUICKER: readonly (readonly [string, string])[] = [
  ['"return function "+makeLegalFunctionName(humanName)+"("', '"return function ("'],
  [`'function "+humanName+" called with '`, `'a function of the kernel was called with '`],
  ['"); // "+argTypes[i+2].name+"\\n"', '");\\n"'],
  ['"); // "+argTypes[i].name+"\\n"', '");\\n"'],
  ['new_(Function,args1).apply(null,args2)', 'compileOnce(args1).apply(null,args2)'],
  [
    `name=makeLegalFunctionName(name);return new Function("body","return function "+name+"() {\\n"+'    "use strict";'+"    return body.apply(this, arguments);\\n"+"};\\n")(body)`,
    'return Object.defineProperty(function(){"use strict";return body.apply(this,arguments)},"name",{value:makeLegalFunctionName(name)})',
  ],
  ['export default Module;', ''],
];

/** The package's script is an ES module that still asks for the names of the older module system. */
async function loadScript(): Promise<Start> {
  const require = createRequire(import.meta.url);
  const path = require.resolve('opencascade.js/dist/opencascade.full.js');
  let script = await readFile(path, 'utf8');
  for (const [slow, quick] of QUICKER) {
    if (!script.includes(slow)) throw new Error(`The CAD kernel's script has changed: ${slow}`);
    script = script.replace(slow, () => quick);
  }
  const known = new Map<string, (...values: unknown[]) => unknown>();
  const compileOnce = (parts: string[]) => {
    const text = parts.join('\n');
    let made = known.get(text);
    if (!made) {
      made = new Function(...parts) as (...values: unknown[]) => unknown;
      known.set(text, made);
    }
    return made;
  };
  const run = runInThisContext(`(function (require, __dirname, compileOnce) { ${script}\nreturn Module; })`) as (
    ...names: unknown[]
  ) => Start;
  return run(require, dirname(path), compileOnce);
}
