// Brings frames into kernel memory, has tile workers render them, and writes them to disk.
import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { once } from 'node:events';
import { parentPort, workerData, type Worker } from 'node:worker_threads';
import { deflateSync, inflateSync } from 'node:zlib';
import { encodeFrame } from '@zippy/core/develop';
import { readMeshesGlb, readPicture, readSurroundings } from '@zippy/core/intake';
import {
  FIRST_PASS,
  firstPass,
  frameProgress,
  keepFrame,
  nextPass,
  PROBE_WIDTH,
  resetTiles,
  resumeFrame,
  sampleErrors,
  seedOf,
  SceneMemory,
  stopTiles,
  takenTiles,
  type Interrupted,
  type LoadedFrame,
  type Pass,
  exposureOf,
} from '@zippy/core/trace';
import { openDocument, UserProblem, type ProjectDocument } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import { exposeFrame, type FrameState } from '@zippy/core/motion';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { compileKernel } from './compileKernel';
import type { TraceAnswer } from '@zippy/core/wire';
import type { TraceRequest } from './tracer';
import { sayTraceFailure } from './sayTraceFailure';
import { forgetLeft, readLeft, writeLeft } from '../storage/leftFrame';
import { startWorker } from './startWorker';

const { workers } = workerData as { workers: number };
const module = await compileKernel();
const memory = createKernelMemory();
const kernel = await startKernel(module, memory, 0);
const tiles: Worker[] = Array.from({ length: workers }, (_, k) =>
  startWorker('tileWorker', { module, memory, index: k + 1 }),
);
await Promise.all(tiles.map((tile) => once(tile, 'message')));

/** The document of the last frame: those of a take come one after another. */
let opened: { text: string; document: ProjectDocument } | null = null;

function stateOf({ document: text, shot: id, frame, settings }: TraceRequest): FrameState {
  if (opened?.text !== text) opened = { text, document: openDocument(JSON.parse(text)) };
  const shot = opened.document.shots[id];
  if (!shot) throw new UserProblem('document-broken', 'its shot is not in it.', 422);
  return exposeFrame(opened.document, shot, frame, exposureOf(settings));
}

let files: TraceRequest['files'] = {};
const models = new Map<string, Promise<TriangleMesh[]>>();
const scene = new SceneMemory(kernel, memory, {
  async mesh(asset, index) {
    let model = models.get(asset);
    if (!model) {
      model = readFile(files[asset] ?? '').then((bytes) => readMeshesGlb(new Uint8Array(bytes)));
      models.set(asset, model);
      // What could not be read once is tried again.
      model.catch(() => models.delete(asset));
    }
    const mesh = (await model)[index];
    if (!mesh) throw new Error(`the model has no mesh ${index}`);
    return mesh;
  },
  sky: async (picture) => readSurroundings(new Uint8Array(await readFile(files[picture] ?? '')), 'surroundings'),
  picture: async (asset) => readPicture(new Uint8Array(await readFile(files[asset] ?? '')), asset),
  // Paths are made of content hashes.
  contentOf: (asset) => files[asset] ?? asset,
});

/** Node's own zlib runs in native code. */
const deflate = {
  pack: (bytes: Uint8Array) => deflateSync(bytes, { level: 2 }),
  unpack: (bytes: Uint8Array) => inflateSync(bytes),
};

let stopped = false;

/** Milliseconds from one word on how far a frame is to the next. */
const TOLD_EVERY = 500;

/**
 * Renders the tiles of a pass from one on.
 * @param tell hears now and then which part of the pass is done
 */
async function renderPass(
  frame: LoadedFrame,
  { samples, masked }: Pick<Pass, 'samples' | 'masked'>,
  from = 0,
  tell?: (part: number) => void,
): Promise<boolean> {
  // Asked to stop between two passes.
  if (stopped) return false;
  scene.setPass(frame, samples);
  resetTiles(memory, from);
  const answers = tiles.map((tile) => once(tile, 'message') as Promise<[{ finished: boolean }]>);
  for (const tile of tiles) tile.postMessage({ frame, masked });
  const clock = setInterval(() => {
    const { taken, count } = takenTiles(memory, frame);
    tell?.(taken / count);
  }, TOLD_EVERY);
  try {
    return (await Promise.all(answers)).every(([answer]) => answer.finished);
  } finally {
    clearInterval(clock);
  }
}

/**
 * Renders a frame pass by pass, from where it was left if it was.
 * @param loading milliseconds that it took to come into memory, which a limit of time counts too
 * @returns what there is of it where it was asked to stop; null where it is done
 */
async function renderFrame(
  frame: LoadedFrame,
  { id, settings }: TraceRequest,
  left: Interrupted | null,
  loading: number,
): Promise<Interrupted | null> {
  let pass: Pass | null = left?.pass ?? { ...firstPass(settings), spent: loading };
  let [from, before] = [left?.tiles ?? 0, left?.elapsed ?? 0];
  while (pass) {
    const own: Pass = pass;
    const began = performance.now() - before;
    const tell = (part: number) => {
      const progress = frameProgress(settings, own, part, performance.now() - began);
      parentPort!.postMessage({ id, progress } satisfies TraceAnswer);
    };
    // One that was stopped between two passes has not begun this one.
    const begun = !stopped;
    const finished = await renderPass(frame, own, from, tell);
    const elapsed = performance.now() - began;
    if (!finished) {
      return keepFrame(memory, frame, { pass: own, tiles: begun ? takenTiles(memory, frame).taken : from, elapsed });
    }
    pass = nextPass(memory, frame, settings, own, elapsed);
    [from, before] = [0, 0];
  }
  return null;
}

/** Renders a frame small and with few samples, and tells what it took and how noisy it is. */
async function probeFrame(request: TraceRequest): Promise<TraceAnswer> {
  stopped = false;
  files = request.files;
  const { width, height } = request.settings;
  const small = { width: PROBE_WIDTH, height: Math.max(16, Math.round((PROBE_WIDTH * height) / width)) };
  const settings = { ...request.settings, ...small, samples: FIRST_PASS, region: null, layers: [] };
  // Meshes that come into memory for the first time do so once in a film, not in every frame.
  const state = stateOf(request);
  await scene.load(state, settings);
  const start = performance.now();
  const frame = await scene.load(state, settings);
  models.clear();
  const loaded = performance.now();
  if (!(await renderPass(frame, { samples: FIRST_PASS, masked: false }))) return { id: request.id, stopped: true };
  const seconds = (performance.now() - loaded) / 1000;
  const probe = {
    setup: (loaded - start) / 1000,
    perSample: seconds / (small.width * small.height * FIRST_PASS),
    samples: FIRST_PASS,
    errors: sampleErrors(memory, frame, 2000),
  };
  return { id: request.id, probe };
}

async function traceFrame(request: TraceRequest & { output: string }): Promise<TraceAnswer> {
  const start = performance.now();
  stopped = false;
  files = request.files;
  const frame = await scene.load(stateOf(request), { ...request.settings, seed: seedOf(request.identity) });
  // Meshes stay in kernel memory; the copies that were read are not needed any more.
  models.clear();
  const loaded = performance.now();
  const left = await readLeft(request.output);
  const resumes = left !== null && resumeFrame(memory, frame, left);
  const interrupted = await renderFrame(frame, request, resumes ? left : null, loaded - start);
  const traced = performance.now();
  if (interrupted) {
    await writeLeft(request.output, interrupted);
    return { id: request.id, stopped: true };
  }
  const bytes = encodeFrame({ ...frame, film: scene.readFilm(frame) }, request.identity, deflate);
  await mkdir(dirname(request.output), { recursive: true });
  const part = `${request.output}.${randomBytes(6).toString('hex')}.part`;
  try {
    await writeFile(part, bytes, { flush: true });
    await rename(part, request.output);
    await forgetLeft(request.output);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  return { id: request.id, kernelMilliseconds: traced - loaded, milliseconds: performance.now() - start };
}

let busy: Promise<void> = Promise.resolve();
parentPort!.on('message', (request: TraceRequest | 'stop') => {
  if (request === 'stop') {
    stopped = true;
    stopTiles(memory);
    return;
  }
  busy = busy.then(async () => {
    let answer: TraceAnswer;
    try {
      const { output } = request;
      answer = await (output === null ? probeFrame(request) : traceFrame({ ...request, output }));
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      const failure = sayTraceFailure(error);
      if (!(error instanceof UserProblem) && !code) console.error('A frame could not be rendered:', error);
      answer = { id: request.id, failure, ...(code ? { code } : {}) };
    }
    parentPort!.postMessage(answer);
  });
});
