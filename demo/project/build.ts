// Makes the demo project from the STEP file: demo/made/project.json and the GLB its parts come from.
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { checkDocument, defaultRecipe, newAsset, newDocument } from '@zippy/core/document';
import { mendModel, modelTree, normalizeModel, placeModel, readCad, writeMeshesGlb } from '@zippy/core/intake';
import { startCadKernel } from '@zippy/core/intake/cadKernel';
import { RADIO_FINISHES } from './finishes';
import { shootRadio } from './shots';

const made = new URL('../made/', import.meta.url);
const hash = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const step = readFileSync(new URL('ferrow-r2.step', made));
const wasm = readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm'));
const recipe = { ...defaultRecipe(), up: 'z' as const };
const read = readCad(await startCadKernel(wasm), 'step', step, 'ferrow-r2.step', recipe);
const mended = mendModel(read, recipe);
const model = normalizeModel(mended.model, recipe);
const glb = writeMeshesGlb(model.meshes);
writeFileSync(new URL('ferrow-r2.meshes.glb', made), glb);

const document = structuredClone(newDocument('Ferrow R2 launch'));
document.lights = {};
document.cameras = {};
const asset = hash(glb);
document.assets['radio'] = newAsset({
  id: 'radio',
  name: 'Ferrow R2',
  kind: 'model',
  hash: asset,
  sourceHash: hash(step),
  sourceName: 'ferrow-r2.step',
  recipe,
  found: mended.found,
});
for (const [id, name] of [
  ['soft', 'Soft three sides'],
  ['strips', 'Dark, two strips'],
  ['overhead', 'Bright overhead'],
] as const) {
  const file = `${{ soft: 'soft-three-sides', strips: 'dark-two-strips', overhead: 'bright-overhead' }[id]}.exr`;
  const picture = hash(readFileSync(new URL(file, made)));
  document.assets[id] = newAsset({ id, name, kind: 'surroundings', hash: picture, sourceName: file });
}
const { nodes } = placeModel(modelTree(model), asset, 'Ferrow R2', 0);
// Ids by place in the tree, so that building twice gives the same project.
const ids = new Map(nodes.map((node, k) => [node.id, `part${k}`]));
for (const node of nodes) {
  const id = ids.get(node.id)!;
  const finish = node.mesh ? RADIO_FINISHES.find(([name]) => name.test(node.name))![1].id : null;
  document.nodes[id] = { ...node, id, parent: node.parent && ids.get(node.parent)!, finish };
}
for (const [, finish] of RADIO_FINISHES) document.finishes[finish.id] = finish;
document.set = {
  ...document.set,
  floor: {
    kind: 'sweep',
    color: [0.47, 0.225, 0.135],
    roughness: 0.62,
    size: 2600,
    depth: 520,
    turn: 0,
    catches: false,
  },
  surroundings: {
    ...document.set.surroundings,
    kind: 'picture',
    picture: 'soft',
    color: [0.3, 0.3, 0.3],
    brightness: 0.3,
  },
  behind: { ...document.set.behind, kind: 'surroundings', color: [0.2, 0.2, 0.2] },
};
document.look = {
  ...document.look,
  exposure: 0.15,
  tone: 'neutral',
  denoise: 1,
  specks: 1,
  bloomAmount: 0.06,
  bloomRadius: 0.05,
  bloomThreshold: 0.9,
};
const find = (name: string): string => {
  const node = Object.values(document.nodes).find((each) => each.name === name);
  if (!node) throw new Error(`the model has no part "${name}"`);
  return node.id;
};
shootRadio(document, find);
writeFileSync(new URL('project.json', made), JSON.stringify(checkDocument(document), null, 1));
console.log(`${nodes.length} nodes, ${(glb.length / 1e6).toFixed(1)} MB of meshes`);
