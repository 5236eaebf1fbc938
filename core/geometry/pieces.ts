import type { TriangleMesh } from './sweep';
import { determinant, invertTransform, type Transform } from './transform';

/** The triangles of some faces alone, with the vertices they use. */
export function pickFaces(mesh: TriangleMesh, faces: readonly number[]): TriangleMesh {
  const wanted = new Set(faces);
  return pickTriangles(mesh, (triangle) => wanted.has(mesh.faces?.[triangle] ?? 0));
}

/** Some triangles of a mesh alone, with the vertices they use. */
function pickTriangles(mesh: TriangleMesh, picked: (triangle: number) => boolean): TriangleMesh {
  const numbers = new Int32Array(mesh.positions.length / 3).fill(-1);
  const vertices: number[] = [];
  const indices: number[] = [];
  const faces: number[] = [];
  for (let triangle = 0; triangle < mesh.indices.length / 3; triangle++) {
    if (!picked(triangle)) continue;
    for (let k = 0; k < 3; k++) {
      const vertex = mesh.indices[triangle * 3 + k]!;
      if (numbers[vertex] === -1) numbers[vertex] = vertices.push(vertex) - 1;
      indices.push(numbers[vertex]!);
    }
    faces.push(mesh.faces?.[triangle] ?? 0);
  }
  const gather = (from: Float32Array, width: number) => {
    const out = new Float32Array(vertices.length * width);
    vertices.forEach((vertex, k) => out.set(from.subarray(vertex * width, vertex * width + width), k * width));
    return out;
  };
  return {
    positions: gather(mesh.positions, 3),
    normals: gather(mesh.normals, 3),
    indices: new Uint32Array(indices),
    ...(mesh.uvs ? { uvs: gather(mesh.uvs, 2) } : {}),
    faces: new Uint32Array(faces),
  };
}

/** A mesh moved, turned, scaled or mirrored; its triangles keep facing outwards. */
export function transformMesh(mesh: TriangleMesh, m: Transform): TriangleMesh {
  const mirrored = determinant(m) < 0;
  const inverse = invertTransform(m) ?? m;
  const positions = new Float32Array(mesh.positions.length);
  const normals = new Float32Array(mesh.normals.length);
  for (let at = 0; at < positions.length; at += 3) {
    const [x, y, z] = [mesh.positions[at]!, mesh.positions[at + 1]!, mesh.positions[at + 2]!];
    const [nx, ny, nz] = [mesh.normals[at]!, mesh.normals[at + 1]!, mesh.normals[at + 2]!];
    for (let row = 0; row < 3; row++) {
      positions[at + row] = m[row * 4]! * x + m[row * 4 + 1]! * y + m[row * 4 + 2]! * z + m[row * 4 + 3]!;
      normals[at + row] = inverse[row]! * nx + inverse[row + 4]! * ny + inverse[row + 8]! * nz;
    }
    const size = Math.hypot(normals[at]!, normals[at + 1]!, normals[at + 2]!) || 1;
    for (let k = 0; k < 3; k++) normals[at + k]! /= size;
  }
  const indices = mesh.indices.slice();
  if (mirrored) {
    for (let at = 0; at < indices.length; at += 3)
      [indices[at + 1], indices[at + 2]] = [indices[at + 2]!, indices[at + 1]!];
  }
  return { ...mesh, positions, normals, indices };
}

/** Several meshes as one. Faces are numbered on; picture coordinates stay where all have them. */
export function joinMeshes(meshes: readonly TriangleMesh[]): TriangleMesh {
  const total = (count: (mesh: TriangleMesh) => number) => meshes.reduce((sum, mesh) => sum + count(mesh), 0);
  const positions = new Float32Array(total((mesh) => mesh.positions.length));
  const normals = new Float32Array(positions.length);
  const indices = new Uint32Array(total((mesh) => mesh.indices.length));
  const faces = new Uint32Array(indices.length / 3);
  const uvs = meshes.every((mesh) => mesh.uvs) ? new Float32Array((positions.length / 3) * 2) : null;
  let [vertex, corner, face] = [0, 0, 0];
  for (const mesh of meshes) {
    positions.set(mesh.positions, vertex * 3);
    normals.set(mesh.normals, vertex * 3);
    uvs?.set(mesh.uvs!, vertex * 2);
    let most = 0;
    for (let at = 0; at < mesh.indices.length; at++) indices[corner + at] = mesh.indices[at]! + vertex;
    for (let t = 0; t < mesh.indices.length / 3; t++) {
      const own = mesh.faces?.[t] ?? 0;
      most = Math.max(most, own);
      faces[corner / 3 + t] = face + own;
    }
    vertex += mesh.positions.length / 3;
    corner += mesh.indices.length;
    face += most + 1;
  }
  return { positions, normals, indices, faces, ...(uvs ? { uvs } : {}) };
}
