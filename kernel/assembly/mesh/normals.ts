// Normals of triangles and places, and the volumes of shells.

const RANGE: u8 = 1;
const INFINITE: u8 = 2;
const FLAT: u8 = 3;
/** Coordinates from here on are none, in whatever unit. */
const FAR: f64 = 1e12;

function at(list: usize, number: u32): f64 {
  return <f64>load<f32>(list + ((<usize>number) << 2));
}

/** @returns whether all of some f32 numbers are finite and no farther than is drawn */
export function allNear(list: usize, count: u32): bool {
  for (let k: u32 = 0; k < count; k++) if (!(abs(at(list, k)) < FAR)) return false;
  return true;
}

/**
 * Writes the unit normal of each triangle, and a byte: 0 where it can be drawn, else why not.
 * @returns how many cannot be drawn
 */
export function faceNormals(
  positions: usize,
  vertices: u32,
  indices: usize,
  triangles: u32,
  planes: usize,
  marks: usize,
): u32 {
  let unsound: u32 = 0;
  for (let t: u32 = 0; t < triangles; t++) {
    const i = indices + <usize>t * 12;
    const a = load<u32>(i);
    const b = load<u32>(i, 4);
    const c = load<u32>(i, 8);
    const out = planes + <usize>t * 12;
    let mark: u8 = 0;
    let x: f64 = 0;
    let y: f64 = 0;
    let z: f64 = 0;
    let size: f64 = 1;
    if (a >= vertices || b >= vertices || c >= vertices) mark = RANGE;
    else {
      const ax = at(positions, a * 3);
      const ay = at(positions, a * 3 + 1);
      const az = at(positions, a * 3 + 2);
      const bx = at(positions, b * 3);
      const by = at(positions, b * 3 + 1);
      const bz = at(positions, b * 3 + 2);
      const cx = at(positions, c * 3);
      const cy = at(positions, c * 3 + 1);
      const cz = at(positions, c * 3 + 2);
      const farthest = max(max(max(abs(ax), abs(ay)), max(abs(az), abs(bx))), max(max(abs(by), abs(bz)), max(max(abs(cx), abs(cy)), abs(cz)))); // prettier-ignore
      if (!(farthest < FAR)) mark = INFINITE;
      else {
        const ux = bx - ax;
        const uy = by - ay;
        const uz = bz - az;
        const vx = cx - ax;
        const vy = cy - ay;
        const vz = cz - az;
        x = uy * vz - uz * vy;
        y = uz * vx - ux * vz;
        z = ux * vy - uy * vx;
        size = sqrt(x * x + y * y + z * z);
        if (!(size > 0)) {
          mark = FLAT;
          x = y = z = 0;
          size = 1;
        }
      }
    }
    store<f32>(out, <f32>(x / size));
    store<f32>(out, <f32>(y / size), 4);
    store<f32>(out, <f32>(z / size), 8);
    store<u8>(marks + t, mark);
    if (mark) unsound++;
  }
  return unsound;
}

/**
 * The angle of a cosine within 2e-8 radians, several times faster than the exact one
 * (Abramowitz and Stegun, Handbook of Mathematical Functions, 1964, 4.4.46).
 */
function arcCosine(cosine: f64): f64 {
  const x = abs(cosine);
  let sum = -0.0012624911;
  sum = sum * x + 0.00667009;
  sum = sum * x - 0.0170881256;
  sum = sum * x + 0.030891881;
  sum = sum * x - 0.0501743046;
  sum = sum * x + 0.0889789874;
  sum = sum * x - 0.2145988016;
  sum = sum * x + 1.570796305;
  const angle = sqrt(1 - x) * sum;
  return cosine < 0 ? Math.PI - angle : angle;
}

/** Radians between two sides of a triangle by the squares of its sides, by the law of cosines. */
function angleBetween(opposite: f64, m: f64, n: f64): f64 {
  const product = 2 * sqrt(m * n);
  if (!(product > 0)) return 0;
  const cosine = (m + n - opposite) / product;
  return cosine >= 1 ? 0 : cosine <= -1 ? Math.PI : arcCosine(cosine);
}

function squareApart(positions: usize, a: u32, b: u32): f64 {
  const x = at(positions, b * 3) - at(positions, a * 3);
  const y = at(positions, b * 3 + 1) - at(positions, a * 3 + 1);
  const z = at(positions, b * 3 + 2) - at(positions, a * 3 + 2);
  return x * x + y * y + z * z;
}

/** The radians at the corners of a triangle, f32. */
function anglesOf(positions: usize, corners: usize, out: usize): void {
  const a = load<u32>(corners);
  const b = load<u32>(corners, 4);
  const c = load<u32>(corners, 8);
  const ab = squareApart(positions, a, b);
  const bc = squareApart(positions, b, c);
  const ca = squareApart(positions, c, a);
  const first = angleBetween(bc, ab, ca);
  const second = angleBetween(ca, ab, bc);
  store<f32>(out, <f32>first);
  store<f32>(out, <f32>second, 4);
  store<f32>(out, <f32>(Math.PI - first - second), 8);
}

/** Writes the radians at the corners of each triangle, f32. */
export function cornerAngles(positions: usize, indices: usize, triangles: u32, out: usize): void {
  for (let t: u32 = 0; t < triangles; t++) anglesOf(positions, indices + <usize>t * 12, out + <usize>t * 12);
}

/** Room for the angles of one triangle. */
const ANGLES = memory.data(12);

function addTo(place: usize, by: f64): void {
  store<f32>(place, <f32>(<f64>load<f32>(place) + by));
}

/**
 * Sums the normals of triangles at each place, weighted by their angles there
 * (Thürmer and Wüthrich, Computing Vertex Normals from Polygonal Facets, 1998).
 * @param half cosine of half of the crease: within it of one triangle, all are within the crease of each other
 * @param sums f32 xyz a place, 0 each
 * @param first u32 a place: 1 and the first corner of its first triangle, 0 each
 * @param sharp a byte a place: 1 where a triangle may be a crease away from another, 0 each
 * @returns whether any place is sharp
 */
export function sumNormals(
  positions: usize,
  indices: usize,
  corners: usize,
  triangles: u32,
  planes: usize,
  half: f64,
  sums: usize,
  first: usize,
  sharp: usize,
): bool {
  let any = false;
  for (let t: u32 = 0; t < triangles; t++) {
    const n = planes + <usize>t * 12;
    const x = <f64>load<f32>(n);
    const y = <f64>load<f32>(n, 4);
    const z = <f64>load<f32>(n, 8);
    anglesOf(positions, indices + <usize>t * 12, ANGLES);
    for (let k: u32 = 0; k < 3; k++) {
      const corner = t * 3 + k;
      const place = load<u32>(corners + ((<usize>corner) << 2));
      const own = first + ((<usize>place) << 2);
      const met = load<u32>(own);
      if (met === 0) store<u32>(own, t * 3 + 1);
      else {
        const other = planes + ((<usize>(met - 1)) << 2);
        const along = <f64>load<f32>(other) * x + <f64>load<f32>(other, 4) * y + <f64>load<f32>(other, 8) * z;
        if (!(along >= half)) {
          store<u8>(sharp + place, 1);
          any = true;
        }
      }
      const weight = <f64>load<f32>(ANGLES + ((<usize>k) << 2));
      const sum = sums + <usize>place * 12;
      addTo(sum, x * weight);
      addTo(sum + 4, y * weight);
      addTo(sum + 8, z * weight);
    }
  }
  return any;
}

/** Makes directions of sums; upright where there is none. */
export function directions(sums: usize, places: u32): void {
  for (let place: u32 = 0; place < places; place++) {
    const n = sums + <usize>place * 12;
    const x = <f64>load<f32>(n);
    const y = <f64>load<f32>(n, 4);
    const z = <f64>load<f32>(n, 8);
    const size = sqrt(x * x + y * y + z * z);
    const is = size > 1e-12;
    store<f32>(n, is ? <f32>(x / size) : 0);
    store<f32>(n, is ? <f32>(y / size) : 1, 4);
    store<f32>(n, is ? <f32>(z / size) : 0, 8);
  }
}

/**
 * Adds up shells, numbered by `region` a triangle: their triangles, six times the volume between them and the origin, and the same of all
 * parts without their sign.
 * @param turned a byte a triangle: 1 where it counts as turned over
 * @param sums 24 bytes a shell, 0 each: f64 volume, f64 without sign, u32 triangles, u32 1 where a side has nothing or several across
 */
export function shellVolumes(
  positions: usize,
  indices: usize,
  across: usize,
  turned: usize,
  region: usize,
  triangles: u32,
  sums: usize,
): void {
  for (let t: u32 = 0; t < triangles; t++) {
    const i = indices + <usize>t * 12;
    const a = load<u32>(i) * 3;
    const b = load<u32>(i, 4) * 3;
    const c = load<u32>(i, 8) * 3;
    const bx = at(positions, b);
    const by = at(positions, b + 1);
    const bz = at(positions, b + 2);
    const cx = at(positions, c);
    const cy = at(positions, c + 1);
    const cz = at(positions, c + 2);
    const part =
      at(positions, a) * (by * cz - bz * cy) +
      at(positions, a + 1) * (bz * cx - bx * cz) +
      at(positions, a + 2) * (bx * cy - by * cx);
    const own = sums + <usize>load<u32>(region + ((<usize>t) << 2)) * 24;
    store<f64>(own, load<f64>(own) + (load<u8>(turned + t) ? -part : part));
    store<f64>(own, load<f64>(own, 8) + abs(part), 8);
    store<u32>(own, load<u32>(own, 16) + 1, 16);
    const s = across + <usize>t * 12;
    if ((load<i32>(s) | load<i32>(s, 4) | load<i32>(s, 8)) < 0) store<u32>(own, 1, 20);
  }
}
