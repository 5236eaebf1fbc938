import {
  type Document,
  Logger,
  Primitive,
  VertexLayout,
  WebIO,
  type Accessor,
  type Buffer,
  type Node as GltfNode,
  type Root,
} from '@gltf-transform/core';
import { UserProblem } from '../document';
import { countUp, type Transform, type TriangleMesh } from '../geometry';
import { readAlong } from './along';
import { GLTF_EXTENSIONS } from './gltfExtensions';
import { brokenGltf, gatherResources } from './gltfResources';
import { materialFinish } from './materialFinish';
import type { Model, ModelNode, ModelPicture } from './model';
import type { SourceFile } from './sources';

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
    document = await reader.readJSON(gatherResources(bytes, name, companions, notes));
  } catch (error) {
    if (error instanceof UserProblem) throw error;
    throw brokenGltf(name, readerSays(error));
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
      throw brokenGltf(name, 'its tree is deeper or larger than any model is');
    const at = nodes.length;
    numbers.set(node, at);
    const primitives = (node.getMesh()?.listPrimitives() ?? []).filter(
      (each) => each.getMode() >= TRIANGLES && each.getAttribute('POSITION'),
    );
    if (
      node
        .getMesh()
        ?.listPrimitives()
        .some((each) => each.getMode() < TRIANGLES)
    )
      notes.add('Points and lines were left out.');
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
  shownNodes(root).forEach((node) => visit(node, -1, 0));
  if (meshes.length === 0) throw brokenGltf(name, 'it holds no triangles');
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

/** Modes below are of points and lines, those above of strips and fans. */
const TRIANGLES = Primitive.Mode['TRIANGLES']!;
const MOST_DEPTH = 500;
const MOST_NODES = 200_000;

/** What the reader of the package meets, as far as people can use it. */
function readerSays(error: unknown): string {
  const missing = /^Missing required extension, "(\w+)"/.exec(error instanceof Error ? error.message : '');
  return missing ? `it needs the extension ${missing[1]}, which is not known here` : 'it is damaged';
}

/** Nodes of the scene that a file wants shown; a file that names none shows all it has. */
function shownNodes(root: Root): GltfNode[] {
  const scene = root.getDefaultScene() ?? root.listScenes().find((each) => each.listChildren().length > 0);
  const shown = scene?.listChildren() ?? [];
  return shown.length > 0 ? shown : root.listNodes().filter((node) => node.getParentNode() === null);
}

const IDENTITY_12: Transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function fromColumns(m: number[]): Transform {
  return [m[0]!, m[4]!, m[8]!, m[12]!, m[1]!, m[5]!, m[9]!, m[13]!, m[2]!, m[6]!, m[10]!, m[14]!];
}

export function primitiveMesh(primitive: Primitive): TriangleMesh {
  const positions = floats(primitive.getAttribute('POSITION'));
  const given = primitive.getIndices()?.getArray();
  const listed = given ? new Uint32Array(given) : countUp(positions.length / 3);
  const indices = primitive.getMode() === TRIANGLES ? listed : unrolled(listed, primitive.getMode());
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

/** A strip or fan of triangles one by one, all turned the same way (glTF 2.0, section 3.7.2.1). */
function unrolled(listed: Uint32Array, mode: number): Uint32Array {
  const triangles = Math.max(0, listed.length - 2);
  const out = new Uint32Array(triangles * 3);
  for (let t = 0; t < triangles; t++) {
    const corners = mode === Primitive.Mode.TRIANGLE_FAN ? [t + 1, t + 2, 0] : [t, t + 1 + (t % 2), t + 2 - (t % 2)];
    corners.forEach((corner, k) => (out[t * 3 + k] = listed[corner]!));
  }
  return out;
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
