import { Document, Primitive, WebIO, type Node as GltfNode } from '@gltf-transform/core';
import { UserProblem } from '../document';
import type { Transform, TriangleMesh } from '../geometry';
import type { Model, ModelFinish, ModelNode } from './model';

const broken = (name: string, why: string) =>
  new UserProblem('file-broken', `"${name}" cannot be read: ${why}. Export it again as GLB.`, 422);

/** Reads a GLB file. @throws UserProblem `file-broken` */
export async function readGlb(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<Model> {
  let document: Document;
  try {
    document = await new WebIO().readBinary(bytes);
  } catch (error) {
    throw broken(name, error instanceof Error ? error.message.slice(0, 120) : 'it is damaged');
  }
  const root = document.getRoot();
  const materials = root.listMaterials();
  const finishes = materials.map((material): ModelFinish => {
    const [r, g, b, a] = material.getBaseColorFactor();
    return {
      name: material.getName() || 'Finish',
      color: [r, g, b],
      alpha: material.getAlphaMode() === 'OPAQUE' ? 1 : a,
      metalness: material.getMetallicFactor(),
      roughness: material.getRoughnessFactor(),
    };
  });
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
    unit: 'm',
    unitReason: 'GLB files are in metres by their standard.',
    up: 'y',
    upReason: 'GLB files are Y up by their standard.',
    notes: [],
  };
}

const IDENTITY_12: Transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function fromColumns(m: number[]): Transform {
  return [m[0]!, m[4]!, m[8]!, m[12]!, m[1]!, m[5]!, m[9]!, m[13]!, m[2]!, m[6]!, m[10]!, m[14]!];
}

function primitiveMesh(primitive: Primitive): TriangleMesh {
  const positions = new Float32Array(primitive.getAttribute('POSITION')!.getArray() ?? []);
  const normals = new Float32Array(primitive.getAttribute('NORMAL')?.getArray() ?? []);
  const indices = primitive.getIndices()?.getArray();
  return {
    positions,
    normals,
    indices: indices ? new Uint32Array(indices) : Uint32Array.from({ length: positions.length / 3 }, (_, k) => k),
  };
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
    const primitive = document
      .createPrimitive()
      .setAttribute(
        'POSITION',
        document.createAccessor().setType('VEC3').setArray(new Float32Array(mesh.positions)).setBuffer(buffer),
      )
      .setAttribute(
        'NORMAL',
        document.createAccessor().setType('VEC3').setArray(new Float32Array(mesh.normals)).setBuffer(buffer),
      )
      .setIndices(
        document.createAccessor().setType('SCALAR').setArray(new Uint32Array(mesh.indices)).setBuffer(buffer),
      );
    const name = `mesh ${k}`;
    root.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  });
  return (await new WebIO().writeBinary(document)) as Uint8Array<ArrayBuffer>;
}

/** The meshes of a GLB that `writeMeshesGlb` made, in their order. */
export async function readMeshesGlb(bytes: Uint8Array<ArrayBuffer>): Promise<TriangleMesh[]> {
  const document = await new WebIO().readBinary(bytes);
  return document
    .getRoot()
    .listMeshes()
    .map((mesh) => primitiveMesh(mesh.listPrimitives()[0]!));
}
