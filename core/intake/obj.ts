import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import type { Mesh, MeshPhongMaterial } from 'three';
import { UserProblem } from '../document';
import { countUp, IDENTITY, type TriangleMesh } from '../geometry';
import { colorFinish, type Model, type ModelFinish, type ModelNode, type ModelPicture } from './model';
import { readMtl } from './mtl';
import { findCompanion } from './sources';
import { guessUnitOf } from './summary';

/** The materials file that an OBJ file names, among those that came along; else the first of them. */
export function namedMaterials<T extends { name: string }>(bytes: Uint8Array, companions: readonly T[]): T | undefined {
  const materials = companions.filter(({ name }) => /\.mtl$/i.test(name));
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
  const named = /^\s*mtllib\s+(.+?)\s*$/m.exec(head)?.[1];
  return (named && findCompanion(materials, named)) || materials[0];
}

/**
 * Reads OBJ with the text of its MTL file, if there is one: one part per object and material.
 * @param pictures what else came along; the MTL names those it wants
 * @throws UserProblem `file-broken`
 */
export function readObj(bytes: Uint8Array, name: string, mtl: string | null, pictures: ModelPicture[] = []): Model {
  const text = new TextDecoder().decode(bytes);
  const group = new OBJLoader().parse(text);
  // The loader makes flat normals where the file has none; smooth ones with creases are made later instead.
  const smooth = /^\s*vn\s/m.test(text);
  const nodes: ModelNode[] = [];
  const meshes: TriangleMesh[] = [];
  const finishes: ModelFinish[] = [];
  const missing = new Set<string>();
  const pictureOf = (path: string): number | null => {
    // Options with their numbers stand before the file. Paths of another machine say nothing here.
    const file = path.trim().replace(/^(-\w+(\s+(on|off|[a-z]|[-\d.]+))*\s+)+/, '');
    const found = findCompanion(pictures, file);
    if (!found) missing.add(file.replace(/^.*[/\\]/, ''));
    return found ? pictures.indexOf(found) : null;
  };
  const described = mtl === null ? new Map<string, ModelFinish>() : readMtl(mtl, pictureOf);
  const known = new Map<string, number>();
  const finishOf = (material: MeshPhongMaterial): number => {
    const at = known.get(material.name) ?? finishes.length;
    if (at === finishes.length)
      finishes.push(described.get(material.name) ?? colorFinish(material.name || 'Finish', [0.5, 0.5, 0.5]));
    known.set(material.name, at);
    return at;
  };
  group.traverse((object) => {
    const mesh = object as Mesh;
    if (!mesh.isMesh) return;
    const positions = mesh.geometry.getAttribute('position').array as Float32Array;
    const given = smooth ? (mesh.geometry.getAttribute('normal')?.array as Float32Array | undefined) : undefined;
    const normals = given ?? new Float32Array();
    const uvs = mesh.geometry.getAttribute('uv')?.array as Float32Array | undefined;
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
        indices: countUp(count),
        // v goes up in OBJ files.
        ...(uvs ? { uvs: uvs.slice(start * 2, (start + count) * 2).map((v, k) => (k % 2 === 1 ? 1 - v : v)) } : {}),
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
  const { unit, reason } = guessUnitOf(meshes);
  return {
    nodes,
    meshes,
    finishes,
    pictures,
    unit,
    unitReason: reason,
    up: 'y',
    upReason: 'OBJ files are most often Y up.',
    exact: false,
    notes: [
      ...(mtl === null ? ['No MTL file came along, so parts have no colours yet.'] : []),
      ...(missing.size > 0
        ? [`Pictures that did not come along: ${[...missing].join(', ')}. Drop them with the file.`]
        : []),
    ],
  };
}
