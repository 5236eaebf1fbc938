// Brings frames into kernel memory, has tile workers render them, and writes them to disk.
import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { once } from 'node:events';
import { parentPort, workerData, type Worker } from 'node:worker_threads';
import { deflateSync, inflateSync } from 'node:zlib';
import { encodeFrame } from '@zippy/core/develop';
import { readMeshesGlb, readSurroundings } from '@zippy/core/intake';
import { resetTiles, SceneMemory, stopTiles } from '@zippy/core/trace';
import type { TriangleMesh } from '@zippy/core/geometry';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { compileKernel } from './compileKernel';
import type { TraceAnswer, TraceRequest } from './tracer';
import { startWorker } from './startWorker';

const { workers } = workerData as { workers: number };
const module = await compileKernel();
const memory = createKernelMemory();
const kernel = await startKernel(module, memory, 0);
const tiles: Worker[] = Array.from({ length: workers }, (_, k) =>
  startWorker('tileWorker', { module, memory, index: k + 1 }),
);
await Promise.all(tiles.map((tile) => once(tile, 'message')));

let files: TraceRequest['files'] = {};
const models = new Map<string, Promise<TriangleMesh[]>>();
const scene = new SceneMemory(kernel, memory, {
  async mesh(asset, index) {
    let model = models.get(asset);
    if (!model) {
      model = readFile(files[asset] ?? '').then((bytes) => readMeshesGlb(new Uint8Array(bytes)));
      models.set(asset, model);
    }
    const mesh = (await model)[index];
    if (!mesh) throw new Error(`the model has no mesh ${index}`);
    return mesh;
  },
  sky: async (picture) => readSurroundings(new Uint8Array(await readFile(files[picture] ?? '')), 'surroundings'),
});

/** Node's own zlib runs in native code. */
const deflate = {
  pack: (bytes: Uint8Array) => deflateSync(bytes, { level: 2 }),
  unpack: (bytes: Uint8Array) => inflateSync(bytes),
};

async function traceFrame(request: TraceRequest): Promise<TraceAnswer> {
  const start = performance.now();
  files = request.files;
  const frame = await scene.load(request.state, request.settings);
  // Meshes stay in kernel memory; the copies that were read are not needed any more.
  models.clear();
  resetTiles(memory);
  const loaded = performance.now();
  const answers = tiles.map((tile) => once(tile, 'message') as Promise<[{ finished: boolean }]>);
  for (const tile of tiles) tile.postMessage(frame);
  const finished = (await Promise.all(answers)).every(([answer]) => answer.finished);
  const traced = performance.now();
  if (!finished) return { id: request.id, stopped: true };
  const bytes = encodeFrame({ ...frame, film: scene.readFilm(frame) }, request.identity, deflate);
  await mkdir(dirname(request.output), { recursive: true });
  const part = `${request.output}.${randomBytes(6).toString('hex')}.part`;
  try {
    await writeFile(part, bytes, { flush: true });
    await rename(part, request.output);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  return { id: request.id, kernelMilliseconds: traced - loaded, milliseconds: performance.now() - start };
}

let busy: Promise<void> = Promise.resolve();
parentPort!.on('message', (request: TraceRequest | 'stop') => {
  if (request === 'stop') {
    stopTiles(memory);
    return;
  }
  busy = busy.then(async () => {
    let answer: TraceAnswer;
    try {
      answer = await traceFrame(request);
    } catch (error) {
      const { message, code } = error as NodeJS.ErrnoException;
      answer = { id: request.id, failure: message, ...(code ? { code } : {}) };
    }
    parentPort!.postMessage(answer);
  });
});
