// Reads files into models and keeps the last one until it is accepted.
import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { parentPort } from 'node:worker_threads';
import { UserProblem, type ProjectDocument } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import {
  checkModel,
  detectFormat,
  modelTree,
  normalizeModel,
  readGlb,
  readMeshesGlb,
  readObj,
  readStep,
  readStl,
  summarize,
  writeMeshesGlb,
  writeSceneGlb,
  type CadKernel,
  type Model,
  type ModelPicture,
  type Unit,
  type UpAxis,
} from '@zippy/core/intake';
import { startCadKernel } from '@zippy/core/intake/cadKernel';
import { normalizePicture } from '../imports/picture';

type Message =
  | {
      type: 'read';
      job: string;
      path: string;
      name: string;
      mtl: string | null;
      pictures: { name: string; path: string }[];
    }
  | { type: 'accept'; job: string; read: string; unit: Unit; up: UpAxis; folder: string }
  | { type: 'export'; job: string; document: ProjectDocument; files: Record<string, string> };

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
      return readObj(
        bytes,
        name,
        message.mtl ? await readFile(message.mtl, 'utf8') : null,
        await Promise.all(
          message.pictures.map(async (each) => ({ name: each.name, bytes: new Uint8Array(await readFile(each.path)) })),
        ),
      );
    case 'glb':
      return readGlb(bytes, name);
  }
}

/** The model with its pictures in the one form that is kept; those that cannot be read are said and left out. */
async function withPictures(model: Model): Promise<Model> {
  const notes = [...model.notes];
  const worn = new Set(model.finishes.flatMap(({ maps }) => maps.map(({ picture }) => picture)));
  const pictures: ModelPicture[] = [];
  for (const [k, { name, bytes }] of model.pictures.entries()) {
    let normal: Uint8Array = new Uint8Array();
    try {
      if (worn.has(k)) normal = await normalizePicture(bytes, name);
    } catch (error) {
      if (!(error instanceof UserProblem)) throw error;
      notes.push(`The picture "${name}" cannot be read and was left out.`);
    }
    pictures.push({ name, bytes: new Uint8Array(normal) });
  }
  return { ...model, pictures, notes };
}

async function keep(bytes: Uint8Array, folder: string): Promise<string> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  const path = join(folder, hash.slice(0, 2), hash);
  const part = join(folder, 'arriving', randomBytes(12).toString('hex'));
  await mkdir(dirname(path), { recursive: true });
  await writeFile(part, bytes, { flush: true });
  await rename(part, path);
  return hash;
}

async function accept({ read: job, unit, up, folder }: Extract<Message, { type: 'accept' }>): Promise<object> {
  if (held?.job !== job)
    throw new UserProblem('import-not-ready', 'Another file was read since. Drop this one once more.', 409);
  const model = normalizeModel(held.model, unit, up);
  const hash = await keep(await writeMeshesGlb(model.meshes), folder);
  const pictures = [];
  for (const { name, bytes } of model.pictures)
    pictures.push(bytes.length > 0 ? { name, hash: await keep(bytes, folder) } : null);
  return { hash, pictures, tree: modelTree(model) };
}

/** The scene as a GLB, with models by content hash and pictures by asset id. */
async function exportScene({ document, files }: Extract<Message, { type: 'export' }>): Promise<Uint8Array> {
  const models = new Map<string, Promise<TriangleMesh[]>>();
  const bytes = async (key: string) => new Uint8Array(await readFile(files[key] ?? ''));
  return writeSceneGlb(document, {
    async mesh(asset, index) {
      if (!models.has(asset)) models.set(asset, bytes(asset).then(readMeshesGlb));
      return (await models.get(asset))![index]!;
    },
    picture: (asset) => bytes(asset).catch(() => null),
  });
}

async function answer(message: Message): Promise<object> {
  try {
    if (message.type === 'accept') return { job: message.job, accepted: await accept(message) };
    if (message.type === 'export') return { job: message.job, exported: await exportScene(message) };
    const model = await withPictures(checkModel(await read(message)));
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
