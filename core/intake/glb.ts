import { Document, Primitive, WebIO, type Accessor, type Buffer, type Node as GltfNode } from '@gltf-transform/core';
import { UserProblem } from '../document';
import type { Transform, TriangleMesh } from '../geometry';
import { GLTF_EXTENSIONS } from './gltfExtensions';
import { materialFinish } from './materialFinish';
import type { Model, ModelNode, ModelPicture } from './model';

export const gltf = (): WebIO => new WebIO().registerExtensions(GLTF_EXTENSIONS);

const broken = (name: string, why: string) =>
  new UserProblem('file-broken', `"${name}" cannot be read: ${why}. Export it again as GLB.`, 422);

/** Reads a GLB file. @throws UserProblem `file-broken` */
export async function readGlb(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<Model> {
  let document: Document;
  try {
    document = await gltf().readBinary(bytes);
  } catch (error) {
    throw broken(name, error instanceof Error ? error.message.slice(0, 120) : 'it is damaged');
  }
  const root = document.getRoot();
  const materials = root.listMaterials();
  const textures = root.listTextures();
  const pictures = textures.map((texture, k): ModelPicture => ({
    name: texture.getName() || texture.getURI() || `Picture ${k + 1}`,
    bytes: new Uint8Array(texture.getImage() ?? []),
  }));
  const notes = new Set<string>();
  const finishes = materials.map((material) => materialFinish(material, (texture) => textures.indexOf(texture), notes));
  const meshes: TriangleMesh[] = [];
  const known = new Map<Primitive, number>();
  const nodes: ModelNode[] = [];
  const visit = (node: GltfNode, parent: number) => {
    const at = nodes.length;
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
    node.listChildren().forEach((child) => visit(child, at));
  };
  for (const scene of root.listScenes().slice(0, 1)) scene.listChildren().forEach((node) => visit(node, -1));
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
    notes: [...notes],
  };
}

const IDENTITY_12: Transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function fromColumns(m: number[]): Transform {
  return [m[0]!, m[4]!, m[8]!, m[12]!, m[1]!, m[5]!, m[9]!, m[13]!, m[2]!, m[6]!, m[10]!, m[14]!];
}

function primitiveMesh(primitive: Primitive): TriangleMesh {
  const positions = floats(primitive.getAttribute('POSITION'));
  const indices = primitive.getIndices()?.getArray();
  const uvs = primitive.getAttribute('TEXCOORD_0');
  return {
    positions,
    normals: floats(primitive.getAttribute('NORMAL')),
    indices: indices ? new Uint32Array(indices) : Uint32Array.from({ length: positions.length / 3 }, (_, k) => k),
    ...(uvs ? { uvs: floats(uvs) } : {}),
  };
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

/** A mesh as a primitive of a glTF document. */
export function writePrimitive(
  document: Document,
  buffer: Buffer,
  { positions, normals, indices, uvs }: TriangleMesh,
): Primitive {
  const accessor = (type: 'VEC2' | 'VEC3', array: Float32Array) =>
    document.createAccessor().setType(type).setArray(new Float32Array(array)).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', positions))
    .setAttribute('NORMAL', accessor('VEC3', normals))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(new Uint32Array(indices)).setBuffer(buffer));
  if (uvs) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', uvs));
  return primitive;
}

/**
 * Writes the meshes of a normalised model as one GLB, in their order; millimetres under a root that scales to metres, so
 * that other programs show it at its true size.
 */
export async function writeMeshesGlb(meshes: readonly TriangleMesh[]): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const root = document.createNode('millimetres').setScale([0.001, 0.001, 0.001]);
  scene.addChild(root);
  meshes.forEach((mesh, k) => {
    const name = `mesh ${k}`;
    const primitive = writePrimitive(document, buffer, mesh);
    root.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  });
  return (await gltf().writeBinary(document)) as Uint8Array<ArrayBuffer>;
}

/** The meshes of a GLB that `writeMeshesGlb` made, in their order. */
export async function readMeshesGlb(bytes: Uint8Array<ArrayBuffer>): Promise<TriangleMesh[]> {
  const document = await gltf().readBinary(bytes);
  return document
    .getRoot()
    .listMeshes()
    .map((mesh) => primitiveMesh(mesh.listPrimitives()[0]!));
}
