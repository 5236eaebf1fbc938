import { beforeAll, describe, expect, it, vi } from 'vitest';
import {
  cameraSchema,
  defaultRecipe,
  finishSchema,
  keySchema,
  lightSchema,
  nodeSchema,
  UserProblem,
} from '../document';
import {
  alongTracks,
  mendModel,
  modelTree,
  normalizeModel,
  placeAlong,
  placeModel,
  TESSELLATIONS,
  writeMeshesGlb,
  type Model,
} from './index';
import { ModelReader } from './readModel';
import { brokenFiles, mutate } from './testing/broken';
import * as samples from './testing/samples';

const reader = new ModelReader();
/** Mutations of each format that are tried; every release is tried with 2,000. */
const MUTATIONS = Number(process.env['MUTATIONS'] ?? 150);
const LONGEST = 30_000;
/** Files that are wrong where it does no harm. */
const WHOLE = new Set(['cyclic.glb']);

/** What becomes of a file: a model that can be kept, or the problem the user is told. Anything else is a fault. */
async function outcome(name: string, bytes: Uint8Array<ArrayBuffer>): Promise<Model | UserProblem> {
  const start = performance.now();
  try {
    const { model } = mendModel(await reader.read({ name, bytes }, [], TESSELLATIONS.draft), defaultRecipe());
    for (const mesh of model.meshes) {
      expect(mesh.positions.every(Number.isFinite)).toBe(true);
      expect(mesh.indices.every((vertex) => vertex < mesh.positions.length / 3)).toBe(true);
    }
    expect(writeMeshesGlb(model.meshes).length).toBeGreaterThan(0);
    expectPlaceable(normalizeModel(model, { unit: model.unit, scale: 1, up: model.up, front: 0 }));
    return model;
  } catch (error) {
    if (error instanceof UserProblem) return error;
    throw error;
  } finally {
    expect(performance.now() - start).toBeLessThan(LONGEST);
  }
}

/** What comes into the document is of its form, so that the edit that places a model is never refused. */
function expectPlaceable(model: Model): void {
  const { nodes, finishes, ids } = placeModel(modelTree(model), '0'.repeat(64), 'Model', 0);
  const { cameras, lights } = placeAlong(model.along ?? { cameras: [], lights: [] }, ids);
  for (const node of nodes) nodeSchema.parse(node);
  for (const finish of finishes) finishSchema.parse(finish);
  for (const camera of cameras) cameraSchema.parse(camera);
  for (const light of lights) lightSchema.parse(light);
  for (const key of Object.values(alongTracks(model.along?.motion ?? [], ids, 24)).flat()) keySchema.parse(key);
}

// Loaders of packages tell the console what they meet.
beforeAll(() => {
  for (const name of ['error', 'warn', 'log'] as const) vi.spyOn(console, name).mockImplementation(() => undefined);
});

describe('broken files', () => {
  it('are refused, each with a sentence that names it and says what to do', async () => {
    const files = await brokenFiles();
    expect(files.length).toBeGreaterThanOrEqual(60);
    for (const { name, bytes } of files) {
      const told = await outcome(name, bytes);
      if (WHOLE.has(name)) {
        expect(told, name).not.toBeInstanceOf(UserProblem);
        continue;
      }
      if (!(told instanceof UserProblem)) expect.fail(`${name} was taken for a model`);
      expect(told.message, name).toMatch(/[.!]$/);
      expect(told.message, name).toMatch(/Export|Choose|Check|Drop|Pack|Bring|unpack/i);
      expect(told.status, name).toBeGreaterThanOrEqual(400);
    }
  }, 300_000);

  it.each<[string, () => Uint8Array<ArrayBuffer> | Promise<Uint8Array<ArrayBuffer>>]>([
    ['crate.stl', samples.stlBinary],
    ['words.stl', () => samples.stlText(['Crate', 'Lid'])],
    ['crate.obj', samples.objText],
    ['crate.ply', () => samples.plyText((corner) => [corner * 30, 0, 0])],
    ['crate.3mf', () => samples.packageFile()],
    ['crate.dae', samples.daeText],
    ['crate.fbx', samples.fbxText],
    ['crate.glb', () => samples.glbFile('none')],
    ['crate.gltf', samples.gltfText],
    ['draco.glb', () => samples.glbFile('draco')],
    ['meshopt.glb', () => samples.glbFile('meshopt')],
  ])(
    'made of %s by chance end in a model or in a sentence',
    async (name, make) => {
      const sound = await make();
      for (let seed = 1; seed <= MUTATIONS; seed++) {
        await outcome(name, mutate(sound, seed)).catch((error: unknown) => {
          throw new Error(`${name} with seed ${seed}: ${error instanceof Error ? error.stack : String(error)}`);
        });
      }
    },
    600_000,
  );
});
