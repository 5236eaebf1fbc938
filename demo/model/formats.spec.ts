import { evaluateProperties } from '@zippy/core/motion';
import { worldTransforms } from '@zippy/core/scene';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { defaultRecipe, meshOfModel, openDocument } from '@zippy/core/document';
import { emptyBounds, transformPoint, unite } from '@zippy/core/geometry';
import {
  detectFormat,
  mendModel,
  normalizeModel,
  readGlb,
  readMeshesGlb,
  readObj,
  readStl,
  summarize,
  type Model,
} from '@zippy/core/intake';
import { writeGlb, writeObj, writeStl } from './formats';

const made = new URL('../made/', import.meta.url);
const document = openDocument(JSON.parse(readFileSync(new URL('project.json', made), 'utf8')));
const meshes = await readMeshesGlb(new Uint8Array(readFileSync(new URL('ferrow-r2.meshes.glb', made))));
const parts = Object.values(document.nodes).filter((node) => node.mesh);
const triangles = parts.reduce((sum, node) => sum + meshes[meshOfModel(node.mesh)!.index]!.indices.length / 3, 0);

/** The radio's edges in the world, corner by corner. */
function size(): number[] {
  const world = worldTransforms(evaluateProperties(document, null, 1));
  const box = emptyBounds();
  for (const node of parts) {
    const { positions } = meshes[meshOfModel(node.mesh)!.index]!;
    for (let at = 0; at < positions.length; at += 3) {
      const corner = transformPoint(world.get(node.id)!, [positions[at]!, positions[at + 1]!, positions[at + 2]!]);
      unite(box, { low: corner, high: corner });
    }
  }
  return box.high.map((v, k) => v - box.low[k]!);
}

/** What the importer says of a file, and whether it is the radio. */
function radio(model: Model, bytes: Uint8Array<ArrayBuffer>, name: string) {
  expect(detectFormat(bytes, name)).toBe(name.split('.').at(-1));
  const clean = mendModel(model, defaultRecipe()).model;
  const summary = summarize(clean);
  expect(summary.triangles / triangles).toBeGreaterThan(0.995);
  const placed = summarize(normalizeModel(clean, { unit: summary.unit, scale: 1, up: 'y', front: 0 }));
  size().forEach((edge, k) => expect(placed.size[k]! / edge).toBeCloseTo(1, 4));
  return { summary, clean };
}

describe('the demo radio comes in', () => {
  it('as STL, one body', () => {
    const bytes = writeStl(document, meshes);
    expect(radio(readStl(bytes, 'radio.stl'), bytes, 'radio.stl').summary.parts).toBe(1);
  });

  it('as OBJ with its MTL, part by part with names and colours', () => {
    const { obj, mtl } = writeObj(document, meshes);
    const bytes = new TextEncoder().encode(obj);
    const { summary, clean } = radio(readObj(bytes, 'radio.obj', mtl), bytes, 'radio.obj');
    expect(summary.parts).toBe(parts.length);
    const body = clean.nodes.find((node) => node.name === 'Body')!;
    const ivory = Object.values(document.finishes).find((finish) => finish.id === 'ivory')!;
    clean.finishes[body.finish!]!.values.baseColor!.forEach((v, k) => expect(v).toBeCloseTo(ivory.baseColor[k]!, 2));
  });

  it('as GLB with its tree, in metres', async () => {
    const bytes = await writeGlb(document, meshes);
    const { summary, clean } = radio(await readGlb(bytes, 'radio.glb'), bytes, 'radio.glb');
    expect([summary.parts, summary.unit]).toEqual([parts.length, 'm']);
    const lens = clean.nodes.find((node) => node.name === 'Lens 4')!;
    expect(clean.nodes[lens.parent]!.name).toBe('Level lamp 4');
    const chrome = clean.finishes.find((finish) => finish.name === 'Chrome')!;
    expect(chrome.values).toMatchObject({ baseMetalness: 1, specularRoughness: expect.closeTo(0.09, 5) as number });
  });
});
