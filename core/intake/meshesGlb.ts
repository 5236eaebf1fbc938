// The file in which a model's meshes are kept: a GLB with one mesh after another. It is written here and not through the scene library,
// which goes through every number several times; a scan has tens of millions of them.
import { boundsOfPositions, type TriangleMesh } from '../geometry';
import { FACE, gltf, primitiveMesh } from './glb';

const GLB = { magic: 0x46546c67, json: 0x4e4f534a, binary: 0x004e4942 };
const FLOAT = 5126;
const UNSIGNED_INT = 5125;
const ARRAY_BUFFER = 34962;
const ELEMENT_ARRAY_BUFFER = 34963;
/** Numbers of a vertex by the accessor's type. */
const WIDTHS = { SCALAR: 1, VEC2: 2, VEC3: 3 };

/**
 * Writes the meshes of a normalised model as one GLB (glTF 2.0), in their order; millimetres under a root that scales to metres,
 * so that other programs show it at its true size.
 */
export function writeMeshesGlb(meshes: readonly TriangleMesh[]): Uint8Array<ArrayBuffer> {
  const arrays: (Float32Array | Uint32Array)[] = [];
  const accessors: object[] = [];
  const bufferViews: object[] = [];
  let length = 0;
  const add = (array: Float32Array | Uint32Array, type: keyof typeof WIDTHS, over: object = {}): number => {
    const indices = array instanceof Uint32Array;
    bufferViews.push({
      buffer: 0,
      byteOffset: length,
      byteLength: array.byteLength,
      target: indices ? ELEMENT_ARRAY_BUFFER : ARRAY_BUFFER,
    });
    arrays.push(array);
    length += array.byteLength;
    const componentType = indices ? UNSIGNED_INT : FLOAT;
    const count = array.length / WIDTHS[type];
    return accessors.push({ bufferView: bufferViews.length - 1, componentType, count, type, ...over }) - 1;
  };
  const written = meshes.map((each, k) => {
    const { positions, normals, indices, uvs, corners } = cornersByFace(each);
    const { low, high } = boundsOfPositions(positions);
    const box = positions.length > 0 ? { min: low, max: high } : { min: [0, 0, 0], max: [0, 0, 0] };
    const attributes = {
      POSITION: add(positions, 'VEC3', box),
      NORMAL: add(normals, 'VEC3'),
      ...(uvs ? { TEXCOORD_0: add(uvs, 'VEC2') } : {}),
      ...(corners ? { [FACE]: add(corners, 'SCALAR') } : {}),
    };
    return { name: `mesh ${k}`, primitives: [{ attributes, indices: add(indices, 'SCALAR') }] };
  });
  const root = { name: 'millimetres', scale: [0.001, 0.001, 0.001], children: meshes.map((_, k) => k + 1) };
  const text = JSON.stringify({
    asset: { version: '2.0', generator: 'Zippy Reel' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [meshes.length > 0 ? root : { name: root.name }, ...written.map(({ name }, mesh) => ({ name, mesh }))],
    ...(meshes.length > 0
      ? { meshes: written, accessors, bufferViews, buffers: [{ byteLength: Math.max(length, 1) }] }
      : {}),
  });
  return pack(text, arrays, length);
}

/** The container of text and numbers: a header and two chunks, each of whole words. */
function pack(text: string, arrays: (Float32Array | Uint32Array)[], length: number): Uint8Array<ArrayBuffer> {
  const json = new TextEncoder().encode(text);
  const padded = Math.ceil(json.length / 4) * 4;
  const binary = Math.max(4, length);
  const bytes = new Uint8Array(12 + 8 + padded + 8 + binary);
  const view = new DataView(bytes.buffer);
  [GLB.magic, 2, bytes.length, padded, GLB.json].forEach((word, k) => view.setUint32(k * 4, word, true));
  bytes.fill(0x20, 20, 20 + padded);
  bytes.set(json, 20);
  let at = 20 + padded;
  view.setUint32(at, binary, true);
  view.setUint32(at + 4, GLB.binary, true);
  at += 8;
  for (const { buffer, byteOffset, byteLength } of arrays) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += byteLength;
  }
  return bytes;
}

/** The meshes of a GLB that `writeMeshesGlb` made, in their order. */
export async function readMeshesGlb(bytes: Uint8Array<ArrayBuffer>): Promise<TriangleMesh[]> {
  const document = await gltf().readBinary(bytes);
  return document
    .getRoot()
    .listMeshes()
    .map((mesh) => primitiveMesh(mesh.listPrimitives()[0]!));
}

const FREE = 0xffffffff;

/**
 * A mesh whose triangles know their face by their first corner: triangles are turned until that corner belongs to no other
 * face, and where none does, one more vertex is made.
 */
function cornersByFace(mesh: TriangleMesh): TriangleMesh & { corners?: Float32Array<ArrayBuffer> } {
  const { faces } = mesh;
  if (!faces) return mesh;
  let most = 0;
  for (let t = 0; t < faces.length; t++) if (faces[t]! > most) most = faces[t]!;
  if (most === 0) return { ...mesh, corners: new Float32Array(mesh.positions.length / 3) };
  const owner = new Uint32Array(mesh.positions.length / 3).fill(FREE);
  const indices = mesh.indices.slice();
  const added: number[] = [];
  const addedFaces: number[] = [];
  const homes = new Map<number, number>();
  for (let t = 0; t < faces.length; t++) {
    const face = faces[t]!;
    const a = indices[t * 3]!;
    const b = indices[t * 3 + 1]!;
    const c = indices[t * 3 + 2]!;
    let first = FREE;
    if (owner[a] === face) first = a;
    else if (owner[b] === face) first = b;
    else if (owner[c] === face) first = c;
    else if (owner[a] === FREE) first = a;
    else if (owner[b] === FREE) first = b;
    else if (owner[c] === FREE) first = c;
    if (first !== FREE) {
      owner[first] = face;
      indices[t * 3] = first;
      indices[t * 3 + 1] = first === a ? b : first === b ? c : a;
      indices[t * 3 + 2] = first === a ? c : first === b ? a : b;
      continue;
    }
    const key = a * (most + 1) + face;
    let vertex = homes.get(key);
    if (vertex === undefined) {
      vertex = owner.length + added.push(a) - 1;
      addedFaces.push(face);
      homes.set(key, vertex);
    }
    indices[t * 3] = vertex;
  }
  const corners = new Float32Array(owner.length + added.length);
  for (let k = 0; k < owner.length; k++) corners[k] = owner[k] === FREE ? 0 : owner[k]!;
  corners.set(addedFaces, owner.length);
  const longer = (from: Float32Array, width: number) => {
    if (added.length === 0) return from;
    const out = new Float32Array(from.length + added.length * width);
    out.set(from);
    added.forEach((vertex, k) =>
      out.set(from.subarray(vertex * width, vertex * width + width), from.length + k * width),
    );
    return out;
  };
  return {
    positions: longer(mesh.positions, 3),
    normals: longer(mesh.normals, 3),
    indices,
    ...(mesh.uvs ? { uvs: longer(mesh.uvs, 2) } : {}),
    corners,
  };
}
