import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { Sight } from './pinhole';

/**
 * The 3 × 3 matrix, row by row, that brings flat places to places of a picture, up to its scale (direct linear transform: Hartley and
 * Zisserman, Multiple View Geometry in Computer Vision, 2003, chapter 4).
 * @param flat at least four places of which no three stand in a line
 */
export function homography(flat: readonly Sight[], seen: readonly Sight[]): number[] {
  const rows = flat.flatMap(([s, t], k) => {
    const [x, y] = seen[k]!;
    return [
      [s, t, 1, 0, 0, 0, -x * s, -x * t, -x],
      [0, 0, 0, s, t, 1, -y * s, -y * t, -y],
    ];
  });
  // A row of nothing makes the matrix of four places square, so that its null space is among the singular vectors.
  while (rows.length < 9) rows.push(new Array<number>(9).fill(0));
  const { rightSingularVectors } = new SingularValueDecomposition(new Matrix(rows), { autoTranspose: true });
  return rightSingularVectors.getColumn(8);
}
