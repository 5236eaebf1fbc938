import { copyTransforms, partMesh, worldTransforms } from '../scene';
import { evaluateProperties } from '../motion';
import { Document, type Material, type Node, type Texture } from '@gltf-transform/core';
import { childrenByParent, type ProjectDocument, type SceneNode } from '../document';
import { determinant, type TriangleMesh } from '../geometry';
import { partRadiance } from '../optics';
import { finishMaterial } from './finishMaterial';
import { gltf, writePrimitive } from './glb';
import { MILLIMETRES } from './gltfExtensions';

/** Where the scene's meshes and pictures come from. */
export interface SceneFiles {
  mesh(asset: string, index: number): Promise<TriangleMesh>;
  /** A picture as PNG, null where it is no longer there. */
  picture(asset: string): Promise<Uint8Array<ArrayBuffer> | null>;
}

/**
 * The resting scene as a GLB in metres: the tree of parts that are shown, their meshes and finishes with their pictures.
 */
export async function writeSceneGlb(project: ProjectDocument, files: SceneFiles): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const buffer = document.createBuffer();
  const textures = new Map<string, Texture>();
  for (const { id, name, kind } of Object.values(project.assets)) {
    const png = kind === 'picture' ? await files.picture(id) : null;
    if (png) textures.set(id, document.createTexture(name).setMimeType('image/png').setImage(png));
  }
  const world = worldTransforms(evaluateProperties(project, null, 1));
  const materials = new Map<string, Material>();
  const materialOf = (node: SceneNode, mesh: TriangleMesh): Material | null => {
    const finish = node.finish === null ? undefined : project.finishes[node.finish];
    if (!finish) return null;
    // Lumens are shared out over the part's surface, so what shines is a material of its own on each part.
    const shines = finish.emissionPower > 0;
    const area = shines ? surface(mesh) * Math.abs(determinant(world.get(node.id)!)) ** (2 / 3) : 0;
    const key = shines ? `${finish.id}/${node.id}` : finish.id;
    const known = materials.get(key);
    if (known) return known;
    const radiance = partRadiance(finish, node.glow, area);
    const made = finishMaterial(document, finish, radiance, (picture) => textures.get(picture) ?? null);
    materials.set(key, made);
    return made;
  };
  const children = childrenByParent(project);
  const place = async (node: SceneNode, under: { addChild(child: Node): unknown }): Promise<void> => {
    const mesh = node.mesh && (await partMesh(node.mesh, files.mesh));
    const shared =
      mesh &&
      document
        .createMesh(node.name)
        .addPrimitive(writePrimitive(document, buffer, mesh).setMaterial(materialOf(node, mesh)));
    for (const m of copyTransforms(node)) {
      const made = document.createNode(node.name).setMatrix([m[0], m[4], m[8], 0, m[1], m[5], m[9], 0, m[2], m[6], m[10], 0, m[3], m[7], m[11], 1]); // prettier-ignore
      if (shared) made.setMesh(shared);
      for (const child of children.get(node.id) ?? []) if (child.visible) await place(child, made);
      under.addChild(made);
    }
  };
  const metres = document
    .createNode(`${project.name} in metres`)
    .setScale([1, 1, 1].map((v) => v / MILLIMETRES) as [number, number, number]);
  for (const root of children.get('') ?? []) if (root.visible) await place(root, metres);
  document.createScene(project.name).addChild(metres);
  return new Uint8Array(await gltf().writeBinary(document));
}

/** Square millimetres of a mesh in its own space. */
function surface({ positions, indices }: TriangleMesh): number {
  let area = 0;
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at]! * 3, indices[at + 1]! * 3, indices[at + 2]! * 3];
    const [ux, uy, uz] = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [number, number, number];
    const [vx, vy, vz] = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [number, number, number];
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return area;
}
