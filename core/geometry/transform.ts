import type { Quaternion } from './rotation';
import type { Vector } from './vector';

/** Affine map as three rows of four, row by row; the column on the right is the translation in millimetres. */
export type Transform = readonly [
  number, number, number, number,
  number, number, number, number,
  number, number, number, number,
]; // prettier-ignore

export const IDENTITY: Transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

export const isIdentity = (m: Transform): boolean => IDENTITY.every((v, k) => Math.abs(v - m[k]!) < 1e-9);

/** Scale, then rotation, then translation. */
export function composeTransform(position: Vector, [x, y, z, w]: Quaternion, scale: Vector): Transform {
  const [sx, sy, sz] = scale;
  return [
    (1 - 2 * (y * y + z * z)) * sx, 2 * (x * y - w * z) * sy, 2 * (x * z + w * y) * sz, position[0],
    2 * (x * y + w * z) * sx, (1 - 2 * (x * x + z * z)) * sy, 2 * (y * z - w * x) * sz, position[1],
    2 * (x * z - w * y) * sx, 2 * (y * z + w * x) * sy, (1 - 2 * (x * x + y * y)) * sz, position[2],
  ]; // prettier-ignore
}

/** First `b`, then `a`. Written out, as this is done for every part of every frame. */
export function multiplyTransforms(a: Transform, b: Transform): Transform {
  // Adding nothing turns a negative nothing into a plain one.
  return [
    a[0] * b[0] + a[1] * b[4] + a[2] * b[8] + 0,
    a[0] * b[1] + a[1] * b[5] + a[2] * b[9] + 0,
    a[0] * b[2] + a[1] * b[6] + a[2] * b[10] + 0,
    a[0] * b[3] + a[1] * b[7] + a[2] * b[11] + a[3],
    a[4] * b[0] + a[5] * b[4] + a[6] * b[8] + 0,
    a[4] * b[1] + a[5] * b[5] + a[6] * b[9] + 0,
    a[4] * b[2] + a[5] * b[6] + a[6] * b[10] + 0,
    a[4] * b[3] + a[5] * b[7] + a[6] * b[11] + a[7],
    a[8] * b[0] + a[9] * b[4] + a[10] * b[8] + 0,
    a[8] * b[1] + a[9] * b[5] + a[10] * b[9] + 0,
    a[8] * b[2] + a[9] * b[6] + a[10] * b[10] + 0,
    a[8] * b[3] + a[9] * b[7] + a[10] * b[11] + a[11],
  ];
}

export function transformPoint(m: Transform, [x, y, z]: Vector): [number, number, number] {
  return [
    m[0] * x + m[1] * y + m[2] * z + m[3],
    m[4] * x + m[5] * y + m[6] * z + m[7],
    m[8] * x + m[9] * y + m[10] * z + m[11],
  ];
}

export function transformDirection(m: Transform, [x, y, z]: Vector): [number, number, number] {
  return [m[0] * x + m[1] * y + m[2] * z, m[4] * x + m[5] * y + m[6] * z, m[8] * x + m[9] * y + m[10] * z];
}

/** Determinant of the linear part: the factor by which volumes grow; below zero it mirrors. */
export function determinant(m: Transform): number {
  return m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);
}

/** The inverse map; null where the transform flattens space. */
export function invertTransform(m: Transform): Transform | null {
  const det = determinant(m);
  if (!Number.isFinite(1 / det) || det === 0) return null;
  const a = (m[5] * m[10] - m[6] * m[9]) / det;
  const b = (m[2] * m[9] - m[1] * m[10]) / det;
  const c = (m[1] * m[6] - m[2] * m[5]) / det;
  const d = (m[6] * m[8] - m[4] * m[10]) / det;
  const e = (m[0] * m[10] - m[2] * m[8]) / det;
  const f = (m[2] * m[4] - m[0] * m[6]) / det;
  const g = (m[4] * m[9] - m[5] * m[8]) / det;
  const h = (m[1] * m[8] - m[0] * m[9]) / det;
  const i = (m[0] * m[5] - m[1] * m[4]) / det;
  return [
    a, b, c, -(a * m[3] + b * m[7] + c * m[11]),
    d, e, f, -(d * m[3] + e * m[7] + f * m[11]),
    g, h, i, -(g * m[3] + h * m[7] + i * m[11]),
  ]; // prettier-ignore
}
