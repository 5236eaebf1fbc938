import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import type { Mesh, MeshPhongMaterial } from 'three';
import { UserProblem } from '../document';
import { boundsOfPositions, emptyBounds, IDENTITY, isEmpty, unite, type TriangleMesh } from '../geometry';
import type { Model, ModelFinish, ModelNode } from './model';
import { guessUnit } from './summary';

/** Reads OBJ with the text of its MTL file, if there is one: one part per object and material. @throws UserProblem `file-broken` */
export function readObj(bytes: Uint8Array, name: string, mtl: string | null): Model {
  const loader = new OBJLoader();
  if (mtl !== null) {
    const materials = new MTLLoader().parse(mtl, '');
    materials.preload();
    loader.setMaterials(materials);
  }
  const group = loader.parse(new TextDecoder().decode(bytes));
  const nodes: ModelNode[] = [];
  const meshes: TriangleMesh[] = [];
  const finishes: ModelFinish[] = [];
  const known = new Map<string, number>();
  const finishOf = (material: MeshPhongMaterial): number => {
    const at = known.get(material.name);
    if (at !== undefined) return at;
    const { r, g, b } = material.color;
    finishes.push({ name: material.name || 'Finish', color: [r, g, b], alpha: material.opacity ?? 1 });
    known.set(material.name, finishes.length - 1);
    return finishes.length - 1;
  };
  group.traverse((object) => {
    const mesh = object as Mesh;
    if (!mesh.isMesh) return;
    const positions = mesh.geometry.getAttribute('position').array as Float32Array;
    const normals = (mesh.geometry.getAttribute('normal')?.array as Float32Array | undefined) ?? new Float32Array();
    const materials = (Array.isArray(mesh.material) ? mesh.material : [mesh.material]) as MeshPhongMaterial[];
    const groups =
      mesh.geometry.groups.length > 0
        ? mesh.geometry.groups
        : [{ start: 0, count: positions.length / 3, materialIndex: 0 }];
    for (const { start, count, materialIndex } of groups) {
      const material = materials[materialIndex ?? 0]!;
      meshes.push({
        positions: positions.slice(start * 3, (start + count) * 3),
        normals: normals.slice(start * 3, (start + count) * 3),
        indices: Uint32Array.from({ length: count }, (_, k) => k),
      });
      const part = mesh.name || name.replace(/\.[^.]*$/, '');
      nodes.push({
        name: groups.length > 1 ? `${part} ${material.name}` : part,
        parent: -1,
        transform: IDENTITY,
        mesh: meshes.length - 1,
        finish: mtl !== null ? finishOf(material) : null,
      });
    }
  });
  if (meshes.length === 0)
    throw new UserProblem('file-broken', `"${name}" holds no faces. Export it again as a mesh.`, 422);
  const box = emptyBounds();
  for (const mesh of meshes) unite(box, boundsOfPositions(mesh.positions.map((v) => (Number.isFinite(v) ? v : 0))));
  const { unit, reason } = guessUnit(isEmpty(box) ? 0 : Math.max(...box.high.map((v, k) => v - box.low[k]!)));
  return {
    nodes,
    meshes,
    finishes,
    unit,
    unitReason: reason,
    up: 'y',
    upReason: 'OBJ files are most often Y up.',
    notes: mtl === null ? ['No MTL file came along, so parts have no colours yet.'] : [],
  };
}
