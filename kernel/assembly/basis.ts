// Two unit vectors across a unit vector.

export let basisXx: f32 = 0;
export let basisXy: f32 = 0;
export let basisXz: f32 = 0;
export let basisYx: f32 = 0;
export let basisYy: f32 = 0;
export let basisYz: f32 = 0;

/** Any two (Duff et al., Building an Orthonormal Basis, Revisited, 2017). */
export function makeBasis(x: f32, y: f32, z: f32): void {
  const sign: f32 = z >= 0 ? 1 : -1;
  const a = <f32>-1 / (sign + z);
  const b = x * y * a;
  basisXx = <f32>1 + sign * x * x * a;
  basisXy = sign * b;
  basisXz = -sign * x;
  basisYx = b;
  basisYy = sign + y * y * a;
  basisYz = -y;
}

/** The first as near as can be to a wished direction (not of unit length); any two where that is along the vector. */
export function makeBasisAlong(x: f32, y: f32, z: f32, tx: f32, ty: f32, tz: f32): void {
  const along = x * tx + y * ty + z * tz;
  const ax = tx - along * x,
    ay = ty - along * y,
    az = tz - along * z;
  const size2 = ax * ax + ay * ay + az * az;
  if (!(size2 > 1e-12)) {
    makeBasis(x, y, z);
    return;
  }
  const inv = <f32>1 / sqrt<f32>(size2);
  basisXx = ax * inv;
  basisXy = ay * inv;
  basisXz = az * inv;
  basisYx = y * basisXz - z * basisXy;
  basisYy = z * basisXx - x * basisXz;
  basisYz = x * basisXy - y * basisXx;
}

/** Turns the basis about its normal. @param angle radians, from x towards y */
export function turnBasis(angle: f32): void {
  if (angle === 0) return;
  const c = Mathf.cos(angle),
    s = Mathf.sin(angle);
  makeBasisAlong(
    basisXy * basisYz - basisXz * basisYy,
    basisXz * basisYx - basisXx * basisYz,
    basisXx * basisYy - basisXy * basisYx,
    c * basisXx + s * basisYx,
    c * basisXy + s * basisYy,
    c * basisXz + s * basisYz,
  );
}
