import type { MeshRef } from './schema';

/** One text for everything that shows the same triangles, to know meshes by. */
export function meshKey({ asset, index, faces, joined }: MeshRef): string {
  const own = faces ? `${asset}/${index}/${faces.join()}` : `${asset}/${index}`;
  return joined ? `${own}+${joined.map((each) => `${meshKey(each)}@${each.transform.join()}`).join('+')}` : own;
}

/** Content hashes of all files a mesh is made of. */
export const meshAssets = ({ asset, joined }: MeshRef): string[] => [
  ...new Set([asset, ...(joined ?? []).map((each) => each.asset)]),
];
