import { evaluateProperties } from '@zippy/core/motion';
import { worldTransforms } from '@zippy/core/scene';
import * as THREE from 'three';
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js';
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js';
import { meshOfModel, type ProjectDocument, type SceneNode } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import { writeSceneGlb } from '@zippy/core/intake';
import { encodeSrgb } from '@zippy/core/optics';

/** The radio's parts in the world, in millimetres, Y up. */
function sceneOf(document: ProjectDocument, meshes: TriangleMesh[]): THREE.Scene {
  const world = worldTransforms(evaluateProperties(document, null, 1));
  const scene = new THREE.Scene();
  for (const node of Object.values(document.nodes)) {
    const mesh = meshes[meshOfModel(node.mesh)?.index ?? -1];
    if (!mesh) continue;
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normals, 3));
    geometry.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
    const part = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ name: finishName(document, node) }));
    part.name = node.name;
    part.matrixAutoUpdate = false;
    const rows = world.get(node.id)!;
    part.matrix.set(rows[0], rows[1], rows[2], rows[3], rows[4], rows[5], rows[6], rows[7], rows[8], rows[9], rows[10], rows[11], 0, 0, 0, 1); // prettier-ignore
    scene.add(part);
  }
  scene.updateMatrixWorld(true);
  return scene;
}

const finishName = (document: ProjectDocument, node: SceneNode): string =>
  (node.finish && document.finishes[node.finish]?.name.replaceAll(' ', '-')) || 'none';

/** Binary STL of all parts as one body. */
export function writeStl(document: ProjectDocument, meshes: TriangleMesh[]): Uint8Array<ArrayBuffer> {
  const { buffer } = new STLExporter().parse(sceneOf(document, meshes), { binary: true });
  return new Uint8Array(buffer as ArrayBuffer);
}

/** OBJ with one object a part, and the MTL that names their colours (which are sRGB by custom). */
export function writeObj(document: ProjectDocument, meshes: TriangleMesh[]): { obj: string; mtl: string } {
  const obj = `mtllib ferrow-r2.mtl\n${new OBJExporter().parse(sceneOf(document, meshes))}`;
  const materials = Object.values(document.finishes).map(
    ({ name, baseColor }) => `newmtl ${name.replaceAll(' ', '-')}\nKd ${baseColor.map(encodeSrgb).join(' ')}\n`,
  );
  return { obj, mtl: materials.join('\n') };
}

/** GLB with the whole tree, in metres as glTF asks. */
export const writeGlb = (document: ProjectDocument, meshes: TriangleMesh[]): Promise<Uint8Array<ArrayBuffer>> =>
  writeSceneGlb(document, { mesh: async (_, index) => meshes[index]!, picture: async () => null });
