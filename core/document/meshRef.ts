import { pieceRevision } from '../geometry/setPieces';
import type { MeshRef, SetPiece } from './schema';

/** One mesh a part is made of: of a model's file, or a set piece. */
type MeshSource = { asset: string; index: number } | { piece: SetPiece };

/** One text for everything that shows the same triangles, to know meshes by. */
export function meshKey({ faces, joined, ...source }: MeshRef): string {
  const whole = sourceKey(source);
  const own = faces ? `${whole}/${faces.join()}` : whole;
  return joined ? `${own}+${joined.map((each) => `${meshKey(each)}@${each.transform.join()}`).join('+')}` : own;
}

/** One text for a mesh of a file or a set piece. */
const sourceKey = (source: MeshSource): string =>
  'piece' in source ? pieceKey(source.piece) : `${source.asset}/${source.index}`;

function pieceKey(piece: SetPiece): string {
  const revision = pieceRevision(piece);
  return `piece/${Object.values(piece).join('/')}${revision > 1 ? `/${revision}` : ''}`;
}

/** Which mesh of which model's file a part shows; null for set pieces and groups. */
export const meshOfModel = (
  mesh: MeshRef | null | undefined,
): { asset: string; index: number; faces?: number[] } | null => (mesh && 'asset' in mesh ? mesh : null);

/** Content hashes of all files a mesh is made of; none of a set piece. */
export const meshAssets = ({ joined, ...own }: MeshRef): string[] => [
  ...new Set([own, ...(joined ?? [])].flatMap((each) => ('asset' in each ? [each.asset] : []))),
];
