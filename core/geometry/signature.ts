import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import type { TriangleMesh } from './sweep';

/** Numbers of a shape that turning and moving it leave alone. */
export interface ShapeSignature {
  /** Square millimetres. */
  area: number;
  /** Cubic millimetres that the surface bounds; of an open one, what its triangles bound with its middle. */
  volume: number;
  /** Principal second moments of the surface about its middle, by its area: square millimetres, the least first. */
  moments: [number, number, number];
}

/** Area, volume and principal moments of a mesh. */
export function shapeSignature({ positions: p, indices }: TriangleMesh): ShapeSignature {
  const triangles = indices.length / 3;
  // Area, first and second moments of each triangle (Eberly, Polyhedral Mass Properties, 2002, for surfaces).
  let area = 0;
  const middle = [0, 0, 0];
  const second = Matrix.zeros(3, 3);
  const corner = (t: number, k: number) => {
    const at = indices[t * 3 + k]! * 3;
    return [p[at]!, p[at + 1]!, p[at + 2]!] as const;
  };
  const eachTriangle = (
    visit: (a: readonly number[], b: readonly number[], c: readonly number[], area: number) => void,
  ) => {
    for (let t = 0; t < triangles; t++) {
      const [a, b, c] = [corner(t, 0), corner(t, 1), corner(t, 2)];
      const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
      const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
      visit(a, b, c, Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2);
    }
  };
  eachTriangle((a, b, c, own) => {
    area += own;
    for (let k = 0; k < 3; k++) middle[k]! += (own * (a[k]! + b[k]! + c[k]!)) / 3;
  });
  if (!(area > 0)) return { area: 0, volume: 0, moments: [0, 0, 0] };
  for (let k = 0; k < 3; k++) middle[k]! /= area;
  let volume = 0;
  eachTriangle((a, b, c, own) => {
    const [d, e, f] = [a, b, c].map((each) => each.map((v, k) => v - middle[k]!)) as [number[], number[], number[]];
    volume +=
      (d[0]! * (e[1]! * f[2]! - e[2]! * f[1]!) +
        d[1]! * (e[2]! * f[0]! - e[0]! * f[2]!) +
        d[2]! * (e[0]! * f[1]! - e[1]! * f[0]!)) /
      6;
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) {
        const sum = (d[i]! + e[i]! + f[i]!) * (d[j]! + e[j]! + f[j]!);
        const own2 = d[i]! * d[j]! + e[i]! * e[j]! + f[i]! * f[j]!;
        second.set(i, j, second.get(i, j) + (own * (sum + own2)) / 12 / area);
      }
    }
  });
  const { realEigenvalues } = new EigenvalueDecomposition(second, { assumeSymmetric: true });
  return { area, volume: Math.abs(volume), moments: realEigenvalues as [number, number, number] };
}

/** How much signatures of one shape may differ, as a part of their size. */
export const SAME_SHAPE = 2e-3;

/** Whether two signatures are of one shape, but for how finely its rounds are cut. */
export function sameShape(a: ShapeSignature, b: ShapeSignature): boolean {
  const near = (u: number, v: number, scale: number) => Math.abs(u - v) <= SAME_SHAPE * scale;
  const size = Math.max(a.area, b.area);
  const spread = Math.max(...a.moments, ...b.moments);
  return (
    near(a.area, b.area, size) &&
    near(a.volume, b.volume, size ** 1.5 / 6) &&
    a.moments.every((moment, k) => near(moment, b.moments[k]!, spread))
  );
}
