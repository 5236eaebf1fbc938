import type { MeshRef } from '../document';
import { joinMeshes, pickFaces, transformMesh, type TriangleMesh } from '../geometry';

/** Makes the triangles of a part from the meshes of the files it names. */
export async function partMesh(
  { asset, index, faces, joined }: MeshRef,
  load: (asset: string, index: number) => Promise<TriangleMesh>,
): Promise<TriangleMesh> {
  const whole = await load(asset, index);
  const own = faces ? pickFaces(whole, faces) : whole;
  if (!joined) return own;
  const others = [];
  for (const each of joined) others.push(transformMesh(await partMesh(each, load), each.transform));
  return joinMeshes([own, ...others]);
}
