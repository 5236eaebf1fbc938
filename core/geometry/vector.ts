/** Three components; millimetres where it is a place. */
export type Vector = readonly [number, number, number];

export const add = (a: Vector, b: Vector): [number, number, number] => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Vector, b: Vector): [number, number, number] => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vector, by: number): [number, number, number] => [a[0] * by, a[1] * by, a[2] * by];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const length = (a: Vector): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Vector, b: Vector): number => length(subtract(a, b));
export const mix = (a: Vector, b: Vector, t: number): [number, number, number] => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
export const cross = (a: Vector, b: Vector): [number, number, number] => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Unit vector along `a`, or `fallback` where `a` has no length. */
export function normalize(a: Vector, fallback: Vector = [0, 1, 0]): [number, number, number] {
  const size = length(a);
  return size > 1e-12 ? scale(a, 1 / size) : [...fallback];
}

/** Right-handed frame whose z axis is `z`; x is level where that is possible. */
export function frameAlong(z: Vector): {
  x: [number, number, number];
  y: [number, number, number];
  z: [number, number, number];
} {
  const forward = normalize(z, [0, 0, 1]);
  const up: Vector = Math.abs(forward[1]) > 0.9999 ? [0, 0, -Math.sign(forward[1])] : [0, 1, 0];
  const x = normalize(cross(up, forward));
  return { x, y: cross(forward, x), z: forward };
}
