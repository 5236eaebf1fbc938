import {
  type Document,
  Logger,
  Primitive,
  VertexLayout,
  WebIO,
  type Accessor,
  type Buffer,
  type Node as GltfNode,
} from '@gltf-transform/core';
import { UserProblem } from '../document';
import { countUp, type Transform, type TriangleMesh } from '../geometry';
import { readAlong } from './along';
import { GLTF_EXTENSIONS } from './gltfExtensions';
import { findFalseClaim, glbText } from './gltfClaims';
import { materialFinish } from './materialFinish';
import type { Model, ModelNode, ModelPicture } from './model';
import { findCompanion, type SourceFile } from './sources';

export const gltf = (): WebIO =>
  new WebIO()
    .registerExtensions(GLTF_EXTENSIONS)
    .setLogger(new Logger(Logger.Verbosity.SILENT))
    // Each array of numbers as one piece is written and read many times faster than vertex by vertex.
    .setVertexLayout(VertexLayout.SEPARATE);

/** Unpackers of compressed meshes, by the names under which the extensions ask for them. */
export type MeshDecoders = Record<string, unknown>;

/** Number of a triangle's face at its corners, in our own files. */
export const FACE = '_FACE';

const broken = (name: string, why: string) =>
  new UserProblem('file-broken', `"${name}" cannot be read: ${why}. Export it again as GLB.`, 422);

/**
 * Reads a GLB file, or a glTF file with the buffers and pictures that came along.
 * @throws UserProblem `file-broken`
 */
export async function readGlb(
  bytes: Uint8Array<ArrayBuffer>,
  name: string,
  companions: readonly SourceFile[] = [],
  decoders: MeshDecoders = {},
): Promise<Model> {
  const notes = new Set<string>();
  let document: Document;
  try {
    const reader = gltf().registerDependencies(decoders);
    const claims = bytes[0] === GLB_MAGIC ? glbText(bytes) : null;
    const lie = claims === null ? null : findFalseClaim(JSON.parse(claims) as object, bytes.length);
    if (lie) throw broken(name, lie);
    document =
      bytes[0] === GLB_MAGIC
        ? await reader.readBinary(bytes)
        : await reader.readJSON(gatherResources(bytes, name, companions, notes));
  } catch (error) {
    if (error instanceof UserProblem) throw error;
    throw broken(name, error instanceof Error ? error.message.slice(0, 120) : 'it is damaged');
  }
  const root = document.getRoot();
  const materials = root.listMaterials();
  const textures = root.listTextures();
  const pictures = textures.map((texture, k): ModelPicture => ({
    name: texture.getName() || texture.getURI() || `Picture ${k + 1}`,
    bytes: new Uint8Array(texture.getImage() ?? []),
  }));
  const finishes = materials.map((material) => materialFinish(material, (texture) => textures.indexOf(texture), notes));
  const meshes: TriangleMesh[] = [];
  const known = new Map<Primitive, number>();
  const nodes: ModelNode[] = [];
  const numbers = new Map<GltfNode, number>();
  const visit = (node: GltfNode, parent: number, depth: number) => {
    if (depth > MOST_DEPTH || nodes.length > MOST_NODES)
      throw broken(name, 'its tree is deeper or larger than any model is');
    const at = nodes.length;
    numbers.set(node, at);
    const primitives = (node.getMesh()?.listPrimitives() ?? []).filter(
      (each) => each.getMode() === Primitive.Mode.TRIANGLES && each.getAttribute('POSITION'),
    );
    const add = (primitive: Primitive, label: string, under: number, transform: Transform) => {
      let mesh = known.get(primitive);
      if (mesh === undefined) {
        mesh = meshes.push(primitiveMesh(primitive)) - 1;
        known.set(primitive, mesh);
      }
      const material = primitive.getMaterial();
      nodes.push({
        name: label,
        parent: under,
        transform,
        mesh,
        finish: material ? materials.indexOf(material) : null,
      });
    };
    const own = fromColumns(node.getMatrix());
    const label = node.getName() || node.getMesh()?.getName() || 'Part';
    if (primitives.length === 1 && node.listChildren().length === 0) add(primitives[0]!, label, parent, own);
    else {
      nodes.push({ name: label, parent, transform: own, mesh: null, finish: null });
      primitives.forEach((primitive, k) =>
        add(primitive, primitives.length > 1 ? `${label} ${k + 1}` : label, at, IDENTITY_12),
      );
    }
    node.listChildren().forEach((child) => visit(child, at, depth + 1));
  };
  for (const scene of root.listScenes().slice(0, 1)) scene.listChildren().forEach((node) => visit(node, -1, 0));
  if (meshes.length === 0) throw broken(name, 'it holds no triangles');
  return {
    nodes,
    meshes,
    finishes,
    pictures,
    unit: 'm',
    unitReason: 'GLB files are in metres by their standard.',
    up: 'y',
    upReason: 'GLB files are Y up by their standard.',
    exact: false,
    notes: [...notes],
    along: readAlong(document, numbers),
  };
}

const GLB_MAGIC = 0x67;
const MOST_DEPTH = 500;
const MOST_NODES = 200_000;

/** A glTF file's text with the bytes of what it names. Pictures that are missing are said and left out. */
function gatherResources(
  bytes: Uint8Array,
  name: string,
  companions: readonly SourceFile[],
  notes: Set<string>,
): { json: never; resources: Record<string, Uint8Array<ArrayBuffer>> } {
  type Named = { uri?: string; mimeType?: string; name?: string };
  let json: { buffers?: Named[]; images?: Named[] };
  try {
    json = JSON.parse(new TextDecoder().decode(bytes)) as typeof json;
  } catch {
    throw broken(name, 'its text is cut off or damaged');
  }
  if (typeof json !== 'object' || json === null) throw broken(name, 'it holds no scene');
  const lie = findFalseClaim(json as object, bytes.length);
  if (lie) throw broken(name, lie);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  const find = ({ uri }: Named): boolean => {
    if (typeof uri !== 'string' || uri.startsWith('data:')) return true;
    const path = decodePath(uri);
    const found = companions.find((each) => each.name === path) ?? findCompanion(companions, path);
    if (found) resources[uri] = found.bytes;
    return found !== undefined;
  };
  for (const buffer of Array.isArray(json.buffers) ? json.buffers : []) {
    if (find(buffer)) continue;
    throw new UserProblem(
      'file-incomplete',
      `"${name}" needs the file "${String(buffer.uri).slice(0, 100)}", which did not come along. Drop both together, or export as GLB.`,
      422,
    );
  }
  const images = Array.isArray(json.images) ? json.images : [];
  for (const image of images.filter((each) => !find(each))) {
    notes.add(`The picture "${String(image.uri).slice(0, 100)}" did not come along. Drop it with the file.`);
    resources[image.uri!] = new Uint8Array();
  }
  return { json: json as never, resources };
}

function decodePath(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

const IDENTITY_12: Transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function fromColumns(m: number[]): Transform {
  return [m[0]!, m[4]!, m[8]!, m[12]!, m[1]!, m[5]!, m[9]!, m[13]!, m[2]!, m[6]!, m[10]!, m[14]!];
}

export function primitiveMesh(primitive: Primitive): TriangleMesh {
  const positions = floats(primitive.getAttribute('POSITION'));
  const given = primitive.getIndices()?.getArray();
  const indices = given ? new Uint32Array(given) : countUp(positions.length / 3);
  const uvs = primitive.getAttribute('TEXCOORD_0');
  const face = primitive.getAttribute(FACE)?.getArray();
  return {
    positions,
    normals: floats(primitive.getAttribute('NORMAL')),
    indices,
    ...(face ? { faces: facesByCorner(indices, face) } : {}),
    ...(uvs ? { uvs: floats(uvs) } : {}),
  };
}

function facesByCorner(indices: Uint32Array, face: ArrayLike<number>): Uint32Array {
  const faces = new Uint32Array(indices.length / 3);
  for (let t = 0; t < faces.length; t++) faces[t] = face[indices[t * 3]!]!;
  return faces;
}

/** Numbers of an accessor, whole numbers that stand for fractions turned into these. */
function floats(accessor: Accessor | null): Float32Array {
  const array = accessor?.getArray();
  if (!accessor || !array) return new Float32Array();
  if (!accessor.getNormalized()) return new Float32Array(array);
  const size = accessor.getElementSize();
  const out = new Float32Array(array.length);
  const element: number[] = [];
  for (let k = 0; k < accessor.getCount(); k++) out.set(accessor.getElement(k, element), k * size);
  return out;
}

/** An array as the document wants it: its memory shared with no other thread. */
const own = <T extends Float32Array | Uint32Array>(array: T): T & { buffer: ArrayBuffer } =>
  (array.buffer instanceof ArrayBuffer ? array : array.slice()) as T & { buffer: ArrayBuffer };

/** A mesh as a primitive of a glTF document. */
export function writePrimitive(
  document: Document,
  buffer: Buffer,
  { positions, normals, indices, uvs }: TriangleMesh,
): Primitive {
  const accessor = (type: 'VEC2' | 'VEC3', array: Float32Array) =>
    document.createAccessor().setType(type).setArray(own(array)).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', positions))
    .setAttribute('NORMAL', accessor('VEC3', normals))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(own(indices)).setBuffer(buffer));
  if (uvs) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', uvs));
  return primitive;
}
