import type { MeshRef } from '../document';
import { joinMeshes, pickFaces, pieceMesh, transformMesh, type TriangleMesh } from '../geometry';

/** Makes the triangles of a part from set pieces and the meshes of the files it names. */
export async function partMesh(
  { faces, joined, ...source }: MeshRef,
  load: (asset: string, index: number) => Promise<TriangleMesh>,
): Promise<TriangleMesh> {
  const whole = 'piece' in source ? pieceMesh(source.piece) : await load(source.asset, source.index);
  const own = faces ? pickFaces(whole, faces) : whole;
  if (!joined) return own;
  const others = [];
  for (const each of joined) others.push(transformMesh(await partMesh(each, load), each.transform));
  return joinMeshes([own, ...others]);
}
