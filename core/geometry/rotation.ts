import { normalize, type Vector } from './vector';

/** Unit quaternion [x, y, z, w]. */
export type Quaternion = readonly [number, number, number, number];

export function quaternionAbout(axis: Vector, angle: number): Quaternion {
  const [x, y, z] = normalize(axis);
  const s = Math.sin(angle / 2);
  return [x * s, y * s, z * s, Math.cos(angle / 2)];
}

export function multiplyQuaternions(a: Quaternion, b: Quaternion): Quaternion {
  return [
    a[3] * b[0] + a[0] * b[3] + a[1] * b[2] - a[2] * b[1],
    a[3] * b[1] - a[0] * b[2] + a[1] * b[3] + a[2] * b[0],
    a[3] * b[2] + a[0] * b[1] - a[1] * b[0] + a[2] * b[3],
    a[3] * b[3] - a[0] * b[0] - a[1] * b[1] - a[2] * b[2],
  ];
}

/** Yaw, pitch and roll as stored in a document: radians about x, y, z, y outermost and z innermost. */
export function quaternionFromTurn(turn: Vector): Quaternion {
  const yaw = quaternionAbout([0, 1, 0], turn[1]);
  const pitch = quaternionAbout([1, 0, 0], turn[0]);
  const roll = quaternionAbout([0, 0, 1], turn[2]);
  return multiplyQuaternions(multiplyQuaternions(yaw, pitch), roll);
}

/** The inverse of `quaternionFromTurn`; at the pole the whole turn about the vertical goes to y. */
export function turnFromQuaternion([x, y, z, w]: Quaternion): [number, number, number] {
  const sinPitch = Math.min(1, Math.max(-1, 2 * (w * x - y * z)));
  if (Math.abs(sinPitch) > 0.9999999) {
    return [Math.asin(sinPitch), 2 * Math.atan2(y, w) * 1, 0];
  }
  return [
    Math.asin(sinPitch),
    Math.atan2(2 * (x * z + w * y), 1 - 2 * (x * x + y * y)),
    Math.atan2(2 * (x * y + w * z), 1 - 2 * (x * x + z * z)),
  ];
}

/** Shortest way between two turns at constant speed (Shoemake, Animating Rotation with Quaternion Curves, 1985). */
export function slerp(a: Quaternion, b: Quaternion, t: number): Quaternion {
  let cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
  const sign = cosine < 0 ? -1 : 1;
  cosine = Math.min(1, cosine * sign);
  const angle = Math.acos(cosine);
  const sine = Math.sin(angle);
  const wa = sine > 1e-6 ? Math.sin((1 - t) * angle) / sine : 1 - t;
  const wb = (sine > 1e-6 ? Math.sin(t * angle) / sine : t) * sign;
  const q = [wa * a[0] + wb * b[0], wa * a[1] + wb * b[1], wa * a[2] + wb * b[2], wa * a[3] + wb * b[3]] as const;
  const size = Math.hypot(...q);
  return [q[0] / size, q[1] / size, q[2] / size, q[3] / size];
}

/** Turns a vector about an axis through the origin. */
export function rotateVector(v: Vector, q: Quaternion): [number, number, number] {
  const [x, y, z] = multiplyQuaternions(multiplyQuaternions(q, [v[0], v[1], v[2], 0]), [-q[0], -q[1], -q[2], q[3]]);
  return [x, y, z];
}

/** The turn that brings the axes to three unit vectors at right angles (Shepperd, Quaternion from Rotation Matrix, 1978). */
export function quaternionFromFrame(x: Vector, y: Vector, z: Vector): Quaternion {
  const trace = x[0] + y[1] + z[2];
  const squares = [1 + x[0] - y[1] - z[2], 1 - x[0] + y[1] - z[2], 1 - x[0] - y[1] + z[2], 1 + trace];
  const most = squares.indexOf(Math.max(...squares));
  const size = 2 * Math.sqrt(squares[most]!);
  const [a, b, c] = [(y[2] - z[1]) / size, (z[0] - x[2]) / size, (x[1] - y[0]) / size];
  const [xy, xz, yz] = [(x[1] + y[0]) / size, (x[2] + z[0]) / size, (y[2] + z[1]) / size];
  const [sx, sy, sz, sw] = squares.map((square) => square / size) as [number, number, number, number];
  const found: Quaternion[] = [
    [sx, xy, xz, a],
    [xy, sy, yz, b],
    [xz, yz, sz, c],
    [a, b, c, sw],
  ];
  return found[most]!;
}
