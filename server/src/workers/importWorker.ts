// Reads files into models and keeps the last one until it is accepted.
import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { parentPort } from 'node:worker_threads';
import { UserProblem } from '@zippy/core/document';
import {
  checkModel,
  detectFormat,
  modelTree,
  normalizeModel,
  readGlb,
  readObj,
  readStep,
  readStl,
  summarize,
  writeMeshesGlb,
  type CadKernel,
  type Model,
  type Unit,
  type UpAxis,
} from '@zippy/core/intake';
import { startCadKernel } from '@zippy/core/intake/cadKernel';

type Message =
  | { type: 'read'; job: string; path: string; name: string; mtl: string | null }
  | { type: 'accept'; job: string; read: string; unit: Unit; up: UpAxis; folder: string };

let cad: Promise<CadKernel> | null = null;
/** The newest model; older ones would only fill the memory. */
let held: { job: string; model: Model } | null = null;

async function read(message: Extract<Message, { type: 'read' }>): Promise<Model> {
  const bytes = new Uint8Array(await readFile(message.path));
  const { name } = message;
  switch (detectFormat(bytes, name)) {
    case 'step':
      cad ??= readFile(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm')).then(
        startCadKernel,
      );
      return readStep(await cad, bytes, name);
    case 'stl':
      return readStl(bytes, name);
    case 'obj':
      return readObj(bytes, name, message.mtl ? await readFile(message.mtl, 'utf8') : null);
    case 'glb':
      return readGlb(bytes, name);
  }
}

async function accept({ read: job, unit, up, folder }: Extract<Message, { type: 'accept' }>): Promise<object> {
  if (held?.job !== job)
    throw new UserProblem('import-not-ready', 'Another file was read since. Drop this one once more.', 409);
  const model = normalizeModel(held.model, unit, up);
  const glb = await writeMeshesGlb(model.meshes);
  const hash = createHash('sha256').update(glb).digest('hex');
  const path = join(folder, hash.slice(0, 2), hash);
  const part = join(folder, 'arriving', randomBytes(12).toString('hex'));
  await mkdir(dirname(path), { recursive: true });
  await writeFile(part, glb, { flush: true });
  await rename(part, path);
  return { hash, tree: modelTree(model) };
}

async function answer(message: Message): Promise<object> {
  try {
    if (message.type === 'accept') return { job: message.job, accepted: await accept(message) };
    const model = checkModel(await read(message));
    held = { job: message.job, model };
    return { job: message.job, summary: summarize(model) };
  } catch (error) {
    if (error instanceof UserProblem)
      return { job: message.job, failure: error.message, code: error.code, status: error.status };
    const name = message.type === 'read' ? `"${message.name}"` : 'The model';
    const full = (error as NodeJS.ErrnoException).code === 'ENOSPC';
    return {
      job: message.job,
      code: full ? 'disk-full' : 'file-broken',
      failure: full
        ? 'The disk is full, so the model could not be kept. Free some space and accept it again.'
        : `${name} could not be read to its end; it seems damaged. Export it again, perhaps in another format.`,
      status: full ? 507 : 422,
    };
  }
}

let busy: Promise<void> = Promise.resolve();
parentPort!.on('message', (message: Message) => {
  busy = busy.then(async () => parentPort!.postMessage(await answer(message)));
});
