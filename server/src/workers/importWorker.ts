// Reads files into models and keeps the last one until it is accepted. A process of its own: the CAD kernel may grow without giving
// anything back, or end the process it runs in.
import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { defaultRecipe, openDocument, UserProblem, type Recipe } from '@zippy/core/document';
import { shapeSignature, type TriangleMesh } from '@zippy/core/geometry';
import {
  fileTessellation,
  mendModel,
  meshPortrait,
  modelPortrait,
  modelTree,
  normalizeModel,
  readMeshesGlb,
  summarize,
  writeMeshesGlb,
  writeSceneGlb,
  type Model,
  type ModelPicture,
  type Tessellation,
} from '@zippy/core/intake';
import { unpackArchive } from '@zippy/core/intake/archive';
import { ModelReader } from '@zippy/core/intake/readModel';
import { packFinish } from '../imports/finishFile';
import { normalizePicture, type NormalPicture } from '../imports/picture';
import type { FinishForm, ReadFinishes } from '@zippy/core/wire';
import { startWorker } from './startWorker';

/** A file of the import with where it lies. */
interface StoredFile {
  name: string;
  path: string;
}

export type ImportMessage =
  | { type: 'read'; job: string; source: StoredFile; companions: StoredFile[] }
  | { type: 'portray'; job: string; read: string; up: Recipe['up']; front: number }
  | { type: 'accept'; job: string; read: string; recipe: Recipe; folder: string }
  | { type: 'rebuild'; job: string; source: StoredFile; companions: StoredFile[]; recipe: Recipe; folder: string }
  | { type: 'compare'; job: string; before: string; after: string }
  | { type: 'draw'; job: string; model: string; mesh: number }
  | { type: 'unpack'; job: string; source: StoredFile; folder: string }
  | { type: 'finishes'; job: string; source: StoredFile; companions: StoredFile[]; folder: string }
  | { type: 'pack'; job: string; text: string; finish: string; form: FinishForm; files: Record<string, string> }
  | { type: 'export'; job: string; text: string; files: Record<string, string> };

// Loaders of packages tell the console every fault they meet, triangle by triangle; people are told in sentences.
for (const name of ['error', 'warn'] as const) console[name] = () => undefined;

const PORTRAIT = { width: 360, height: 240 };
const PART_PICTURE = 96;

const reader = new ModelReader();
/** The newest model as it was read; older ones would only fill the memory. */
let held: {
  job: string;
  files: { source: StoredFile; companions: StoredFile[] };
  tessellation: Tessellation;
  model: Model;
  /** As it is mended where nothing else is chosen. */
  mended?: ReturnType<typeof mendModel>;
} | null = null;

const load = async ({ name, path }: StoredFile) => ({ name, bytes: new Uint8Array(await readFile(path)) });

async function readModel(
  files: { source: StoredFile; companions: StoredFile[] },
  tessellation: Tessellation,
): Promise<Model> {
  const companions = await Promise.all(files.companions.map(load));
  const source = await load(files.source);
  await reader.warmUp(source);
  // From here on the file alone is to blame for how long it takes.
  process.send!({ job: working, reading: source.bytes.length });
  return reader.read(source, companions, tessellation);
}

/** The job that is worked on. */
let working = '';

async function read({ job, source, companions }: Extract<ImportMessage, { type: 'read' }>): Promise<object> {
  held = null;
  const recipe = defaultRecipe();
  const tessellation = fileTessellation(recipe);
  const files = { source, companions };
  const model = await withPictures(await readModel(files, tessellation));
  held = { job, files, tessellation, model };
  held.mended = mendModel(model, recipe);
  return { summary: summarize(held.mended.model, held.mended.found) };
}

/** A small picture of the model that was read, upright and turned as is thought of. */
function portray({ read: job, up, front }: Extract<ImportMessage, { type: 'portray' }>): Uint8Array {
  if (held?.job !== job || !held.mended) throw new UserProblem('not-found', 'This model is no longer held.', 404);
  const upright = normalizeModel(held.mended.model, { unit: held.model.unit, scale: 1, up, front });
  return modelPortrait(upright, PORTRAIT.width, PORTRAIT.height);
}

/** The model with its pictures in the one form that is kept; those that cannot be read are said and left out. */
async function withPictures<M extends Pick<Model, 'finishes' | 'pictures' | 'notes'>>(model: M): Promise<M> {
  const notes = [...model.notes];
  const worn = new Set(model.finishes.flatMap(({ maps }) => maps.map(({ picture }) => picture)));
  const pictures: ModelPicture[] = [];
  for (const [k, { name, bytes }] of model.pictures.entries()) {
    let normal: NormalPicture | null = null;
    try {
      if (worn.has(k) && bytes.length > 0) normal = await normalizePicture(bytes, name);
    } catch (error) {
      if (!(error instanceof UserProblem)) throw error;
      notes.push(`The picture "${name}" cannot be read and was left out.`);
    }
    const deep = normal?.deep ? { deep: new Uint8Array(normal.deep) } : {};
    pictures.push({ name, bytes: new Uint8Array(normal?.png ?? []), ...deep });
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

async function accept({ read: job, recipe, folder }: Extract<ImportMessage, { type: 'accept' }>): Promise<object> {
  if (held?.job !== job)
    throw new UserProblem('import-not-ready', 'Another file was read since. Drop this one once more.', 409);
  const wanted = fileTessellation(recipe);
  const { chord, angle } = held.tessellation;
  const finer = held.model.exact && (chord !== wanted.chord || angle !== wanted.angle);
  const source = finer ? await withPictures(await readModel(held.files, wanted)) : held.model;
  const mended = !finer && held.mended && mendsAlike(recipe, defaultRecipe()) ? held.mended : mendModel(source, recipe);
  const { model, hash, found } = await keepModel(mended, recipe, folder);
  return { hash, found, pictures: await keepPictures(model.pictures, folder), tree: modelTree(model) };
}

async function keepPictures(pictures: readonly ModelPicture[], folder: string): Promise<ReadFinishes['pictures']> {
  const kept = [];
  for (const { name, bytes, deep } of pictures) {
    const finer = deep ? await keep(deep, folder) : null;
    kept.push(bytes.length > 0 ? { name, hash: await keep(bytes, folder), deep: finer } : null);
  }
  return kept;
}

/** The finishes of a file alone. */
async function finishes({
  job,
  folder,
  ...files
}: Extract<ImportMessage, { type: 'finishes' }>): Promise<ReadFinishes> {
  const source = await load(files.source);
  const companions = await Promise.all(files.companions.map(load));
  process.send!({ job, reading: source.bytes.length });
  const read = await withPictures(await reader.readFinishes(source, companions));
  return { finishes: read.finishes, notes: read.notes, pictures: await keepPictures(read.pictures, folder) };
}

/** One finish as an open file, with pictures by asset id. */
async function pack({ text, finish, form, files }: Extract<ImportMessage, { type: 'pack' }>): Promise<Uint8Array> {
  const bytes = async (key: string) => new Uint8Array(await readFile(files[key] ?? ''));
  return packFinish(openDocument(JSON.parse(text)), finish, form, (asset) => bytes(asset).catch(() => null));
}

/** Whether two recipes mend alike; they may turn and scale differently. */
const mendsAlike = (a: Recipe, b: Recipe): boolean =>
  a.merge === b.merge && a.crease === b.crease && JSON.stringify(a.leave) === JSON.stringify(b.leave);

async function keepModel(mended: ReturnType<typeof mendModel>, recipe: Recipe, folder: string) {
  const model = normalizeModel(mended.model, recipe);
  return { model, found: mended.found, hash: await keep(writeMeshesGlb(model.meshes), folder) };
}

/** Makes a model's file again from its source, with other choices. */
async function rebuild(message: Extract<ImportMessage, { type: 'rebuild' }>): Promise<object> {
  const { hash, found, model } = await keepModel(
    mendModel(await readModel(message, fileTessellation(message.recipe)), message.recipe),
    message.recipe,
    message.folder,
  );
  return { hash, found, meshes: model.meshes.length };
}

/** The meshes of the models that were asked for last: lists ask for the pictures of all parts of one, or of two. */
const kept = new Map<string, Promise<TriangleMesh[]>>();

function meshesOf(path: string): Promise<TriangleMesh[]> {
  const known = kept.get(path) ?? readFile(path).then((bytes) => readMeshesGlb(new Uint8Array(bytes)));
  kept.delete(path);
  kept.set(path, known);
  known.catch(() => kept.delete(path));
  for (const oldest of kept.keys()) if (kept.size > 2) kept.delete(oldest);
  return known;
}

/** By what the meshes of two models are known again. */
async function compare({ before, after }: Extract<ImportMessage, { type: 'compare' }>): Promise<object> {
  const signatures = async (path: string) => (await meshesOf(path)).map(shapeSignature);
  return { before: await signatures(before), after: await signatures(after) };
}

/** A small picture of one mesh of a model. */
async function draw({ model, mesh }: Extract<ImportMessage, { type: 'draw' }>): Promise<Uint8Array> {
  const found = (await meshesOf(model))[mesh];
  if (!found) throw new UserProblem('not-found', 'The model has no such mesh.', 404);
  return meshPortrait(found, PART_PICTURE, PART_PICTURE);
}

async function unpack({ source, folder }: Extract<ImportMessage, { type: 'unpack' }>): Promise<object[]> {
  const { name, bytes } = await load(source);
  const files = [];
  for (const each of unpackArchive(bytes, name)) files.push({ name: each.name, hash: await keep(each.bytes, folder) });
  return files;
}

/** The scene as a GLB, with models by content hash and pictures by asset id. */
async function exportScene({ text, files }: Extract<ImportMessage, { type: 'export' }>): Promise<Uint8Array> {
  const models = new Map<string, Promise<TriangleMesh[]>>();
  const bytes = async (key: string) => new Uint8Array(await readFile(files[key] ?? ''));
  return writeSceneGlb(openDocument(JSON.parse(text)), {
    async mesh(asset, index) {
      if (!models.has(asset)) models.set(asset, bytes(asset).then(readMeshesGlb));
      return (await models.get(asset))![index]!;
    },
    picture: (asset) => bytes(asset).catch(() => null),
  });
}

async function work(message: ImportMessage): Promise<object> {
  switch (message.type) {
    case 'read':
      return read(message);
    case 'portray':
      return { portrayed: portray(message) };
    case 'accept':
      return { accepted: await accept(message) };
    case 'rebuild':
      return { rebuilt: await rebuild(message) };
    case 'compare':
      return { compared: await compare(message) };
    case 'draw':
      return { drawn: await draw(message) };
    case 'unpack':
      return { unpacked: await unpack(message) };
    case 'finishes':
      return { finishes: await finishes(message) };
    case 'pack':
      return { exported: await pack(message) };
    case 'export':
      return { exported: await exportScene(message) };
  }
}

async function answer(message: ImportMessage): Promise<object> {
  const { job } = message;
  working = job;
  try {
    return { job, ...(await work(message)) };
  } catch (error) {
    if (error instanceof UserProblem) return { job, failure: error.message, code: error.code, status: error.status };
    const name = 'source' in message ? `"${message.source.name}"` : 'The model';
    const full = (error as NodeJS.ErrnoException).code === 'ENOSPC';
    return {
      job,
      code: full ? 'disk-full' : 'file-broken',
      failure: full
        ? 'The disk is full, so the model could not be kept. Free some space and accept it again.'
        : `${name} could not be read to its end; it seems damaged. Export it again, perhaps in another format.`,
      status: full ? 507 : 422,
    };
  }
}

let busy: Promise<void> = Promise.resolve();
process.on('message', (message: ImportMessage) => {
  busy = busy.then(async () => {
    const answered = await answer(message);
    process.send!({ ...answered, spent: reader.spent });
  });
});
startWorker('watchWorker', { parent: process.ppid }).unref();
