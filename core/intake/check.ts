import { LIMITS, UserProblem } from '../document';
import { smoothNormals, type TriangleMesh } from '../geometry';
import type { Model } from './model';

export const MOST_TRIANGLES = 20_000_000;

/**
 * Takes out what would break everything after it: triangles with missing or non-finite corners or without area, parts
 * without triangles, normals that are no directions. Says in the model's notes what was done.
 * @throws UserProblem where nothing is left, or limits are passed
 */
export function checkModel(model: Model): Model {
  const count = { range: 0, infinite: 0, flat: 0, normals: 0 };
  const meshes = model.meshes.map((mesh) => cleanMesh(mesh, count));
  const notes = [...model.notes];
  if (count.range) notes.push(`${count.range} triangles named corners that do not exist and were left out.`);
  if (count.infinite) notes.push(`${count.infinite} triangles had corners without a finite place and were left out.`);
  if (count.flat) notes.push(`${count.flat} triangles without area were left out.`);
  if (count.normals) notes.push(`${count.normals} parts had no usable normals; they were made from the triangles.`);
  const nodes = model.nodes.map((node) => ({
    ...node,
    name: (node.name.trim() || 'Part').slice(0, LIMITS.nameLength),
    mesh: node.mesh !== null && meshes[node.mesh]!.indices.length > 0 ? node.mesh : null,
  }));
  const parts = nodes.filter((node) => node.mesh !== null).length;
  const triangles = nodes.reduce((sum, { mesh }) => sum + (mesh === null ? 0 : meshes[mesh]!.indices.length / 3), 0);
  if (parts === 0) {
    throw new UserProblem(
      'model-empty',
      'The file holds no solid or surface that could be shown. Check that the export included the bodies, not only sketches or points.',
      422,
    );
  }
  if (parts > LIMITS.parts) {
    throw new UserProblem(
      'too-many-parts',
      `The file holds ${parts.toLocaleString('en')} parts; at most ${LIMITS.parts.toLocaleString('en')} can be opened. Merge small parts before exporting.`,
      413,
    );
  }
  if (triangles > MOST_TRIANGLES) {
    throw new UserProblem(
      'too-many-triangles',
      `The file holds ${Math.round(triangles / 1e6)} million triangles; at most ${MOST_TRIANGLES / 1e6} million can be opened. Export it with a coarser tessellation.`,
      413,
    );
  }
  return { ...model, nodes, meshes, notes };
}

function cleanMesh(
  mesh: TriangleMesh,
  count: { range: number; infinite: number; flat: number; normals: number },
): TriangleMesh {
  const { positions, indices } = mesh;
  const vertices = Math.floor(positions.length / 3);
  const kept = new Uint32Array(indices.length);
  let end = 0;
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [a, b, c] = [indices[at]!, indices[at + 1]!, indices[at + 2]!];
    if (a >= vertices || b >= vertices || c >= vertices) {
      count.range++;
      continue;
    }
    let finite = true;
    for (const corner of [a, b, c]) {
      for (let k = 0; k < 3; k++) if (!(Math.abs(positions[corner * 3 + k]!) < 1e12)) finite = false;
    }
    if (!finite) {
      count.infinite++;
      continue;
    }
    if (!(doubleArea(positions, a, b, c) > 0)) {
      count.flat++;
      continue;
    }
    kept[end++] = a;
    kept[end++] = b;
    kept[end++] = c;
  }
  const clean = kept.slice(0, end);
  for (let at = 0; at < positions.length; at++) if (!Number.isFinite(positions[at]!)) positions[at] = 0;
  let normals = mesh.normals;
  if (!usableNormals(normals, clean, positions.length)) {
    if (end > 0 && normals.length > 0) count.normals++;
    normals = smoothNormals(positions, clean);
  }
  const { uvs } = mesh;
  const usable = uvs && uvs.length === vertices * 2 && uvs.every(Number.isFinite);
  return { positions, normals, indices: clean, ...(usable ? { uvs } : {}) };
}

function doubleArea(p: Float32Array, a: number, b: number, c: number): number {
  const [ux, uy, uz] = [0, 1, 2].map((k) => p[b * 3 + k]! - p[a * 3 + k]!) as [number, number, number];
  const [vx, vy, vz] = [0, 1, 2].map((k) => p[c * 3 + k]! - p[a * 3 + k]!) as [number, number, number];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
}

function usableNormals(normals: Float32Array, indices: Uint32Array, expected: number): boolean {
  if (normals.length !== expected) return false;
  for (const index of indices) {
    const size = Math.hypot(normals[index * 3]!, normals[index * 3 + 1]!, normals[index * 3 + 2]!);
    if (!(size > 0.5 && size < 2)) return false;
  }
  return true;
}
