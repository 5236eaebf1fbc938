import { turnFromQuaternion, type Quaternion } from './rotation';
import { determinant, type Transform } from './transform';

/** Position, turn and scale of a transform without shear; a mirrored one gets a negative scale in x. */
export function decompose(m: Transform): {
  position: [number, number, number];
  turn: [number, number, number];
  scale: [number, number, number];
} {
  const size = [0, 1, 2].map((k) => Math.hypot(m[k]!, m[k + 4]!, m[k + 8]!) || 1e-9) as [number, number, number];
  if (determinant(m) < 0) size[0] = -size[0];
  const r = (row: number, column: number) => m[row * 4 + column]! / size[column]!;
  return {
    position: [m[3], m[7], m[11]],
    turn: turnFromQuaternion(quaternionFromRows(r)),
    scale: size.map((v) => Math.round(v * 1e9) / 1e9) as [number, number, number],
  };
}

/** (Shepperd, Quaternion from Rotation Matrix, 1978.) */
function quaternionFromRows(r: (row: number, column: number) => number): Quaternion {
  const trace = r(0, 0) + r(1, 1) + r(2, 2);
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2;
    return [(r(2, 1) - r(1, 2)) / s, (r(0, 2) - r(2, 0)) / s, (r(1, 0) - r(0, 1)) / s, s / 4];
  }
  const [a, b, c] = r(0, 0) > r(1, 1) && r(0, 0) > r(2, 2) ? [0, 1, 2] : r(1, 1) > r(2, 2) ? [1, 2, 0] : [2, 0, 1];
  const s = Math.sqrt(1 + r(a!, a!) - r(b!, b!) - r(c!, c!)) * 2;
  const q = [0, 0, 0, (r(c!, b!) - r(b!, c!)) / s];
  q[a!] = s / 4;
  q[b!] = (r(b!, a!) + r(a!, b!)) / s;
  q[c!] = (r(c!, a!) + r(a!, c!)) / s;
  return q as unknown as Quaternion;
}
