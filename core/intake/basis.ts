// Runs in Node only.
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { runInThisContext } from 'node:vm';
import { UserProblem } from '../document';

/** The part of the transcoder's interface that is used. */
interface Transcoder {
  initializeBasis(): void;
  KTX2File: new (bytes: Uint8Array) => {
    isValid(): boolean;
    getWidth(): number;
    getHeight(): number;
    startTranscoding(): boolean;
    getImageTranscodedSizeInBytes(level: number, layer: number, face: number, format: number): number;
    transcodeImage(
      out: Uint8Array,
      level: number,
      layer: number,
      face: number,
      format: number,
      ...flags: number[]
    ): boolean;
    close(): void;
    delete(): void;
  };
}

const RGBA32 = 13;
const KTX2 = [0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb];

let transcoder: Promise<Transcoder> | null = null;

export const isKtx2 = (bytes: Uint8Array): boolean => KTX2.every((byte, k) => bytes[k] === byte);

/**
 * Unpacks a KTX2 picture that is compressed with Basis Universal.
 * @returns 8-bit RGBA, first row on top
 * @throws UserProblem `picture-broken`
 */
export async function readKtx2(
  bytes: Uint8Array,
  name: string,
): Promise<{ width: number; height: number; data: Uint8Array<ArrayBuffer> }> {
  const problem = () =>
    new UserProblem('picture-broken', `The picture "${name}" cannot be unpacked. Export it as PNG.`, 422);
  transcoder ??= startTranscoder();
  const { KTX2File } = await transcoder;
  const file = new KTX2File(bytes);
  try {
    if (!file.isValid() || !file.startTranscoding()) throw problem();
    const [width, height] = [file.getWidth(), file.getHeight()];
    const size = file.getImageTranscodedSizeInBytes(0, 0, 0, RGBA32);
    if (width * height > 16384 * 16384 || size < width * height * 4) throw problem();
    const data = new Uint8Array(size);
    if (!file.transcodeImage(data, 0, 0, 0, RGBA32, 0, -1, -1)) throw problem();
    return { width, height, data };
  } finally {
    file.close();
    file.delete();
  }
}

async function startTranscoder(): Promise<Transcoder> {
  const require = createRequire(import.meta.url);
  const path = require.resolve('three/examples/jsm/libs/basis/basis_transcoder.js');
  // The package's script is a plain one inside a folder of modules, so that it must be run by hand.
  const script = `(function (require, __dirname, module, exports) { ${await readFile(path, 'utf8')}; return BASIS; })`;
  const holder = { exports: {} };
  const run = runInThisContext(script) as (...names: unknown[]) => (options: object) => Promise<Transcoder>;
  const start = run(require, path.replace(/[/\\][^/\\]*$/, ''), holder, holder.exports);
  const wasm = await readFile(path.replace(/\.js$/, '.wasm'));
  const made = await start({ wasmBinary: wasm });
  made.initializeBasis();
  return made;
}
