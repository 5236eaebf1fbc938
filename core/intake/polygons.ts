import { ShapeUtils, Vector2 } from 'three';

/**
 * Cuts polygons into triangles: convex ones as fans, others by their ears in the plane they lie in.
 * @param positions xyz triples
 * @param corners the vertices of all polygons, one after another
 * @param sizes how many corners each polygon has, three or more
 * @returns three vertices a triangle
 */
export function triangulate(positions: Float32Array, corners: Uint32Array, sizes: Uint32Array): Uint32Array {
  let triangles = 0;
  for (const size of sizes) triangles += size - 2;
  const out = new Uint32Array(triangles * 3);
  let end = 0;
  let begin = 0;
  for (const size of sizes) {
    const polygon = corners.subarray(begin, begin + size);
    begin += size;
    const ears = size > 3 && !isConvex(positions, polygon) ? cutEars(positions, polygon) : null;
    if (ears) {
      out.set(ears, end);
      end += ears.length;
      continue;
    }
    for (let k = 2; k < size; k++) {
      out[end++] = polygon[0]!;
      out[end++] = polygon[k - 1]!;
      out[end++] = polygon[k]!;
    }
  }
  return out;
}

/** Twice the area of a polygon, along its normal (Newell's method: Sutherland et al., A Characterization of Ten Hidden-Surface Algorithms, 1974). */
function areaNormal(p: Float32Array, polygon: Uint32Array): [number, number, number] {
  const normal: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < polygon.length; k++) {
    const a = polygon[k]! * 3;
    const b = polygon[(k + 1) % polygon.length]! * 3;
    normal[0] += (p[a + 1]! - p[b + 1]!) * (p[a + 2]! + p[b + 2]!);
    normal[1] += (p[a + 2]! - p[b + 2]!) * (p[a]! + p[b]!);
    normal[2] += (p[a]! - p[b]!) * (p[a + 1]! + p[b + 1]!);
  }
  return normal;
}

/** Whether a polygon turns the same way at all its corners; one with corners that are nowhere counts as convex. */
function isConvex(p: Float32Array, polygon: Uint32Array): boolean {
  const [nx, ny, nz] = areaNormal(p, polygon);
  const size = polygon.length;
  for (let k = 0; k < size; k++) {
    const a = polygon[k]! * 3;
    const b = polygon[(k + 1) % size]! * 3;
    const c = polygon[(k + 2) % size]! * 3;
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[b]!, p[c + 1]! - p[b + 1]!, p[c + 2]! - p[b + 2]!];
    const turn = (uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz;
    if (turn < 0) return false;
  }
  return true;
}

/** Triangles of a polygon seen along its normal's largest axis; none where it crosses itself so that ears are missing. */
function cutEars(p: Float32Array, polygon: Uint32Array): number[] | null {
  const normal = areaNormal(p, polygon);
  const axis = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)));
  const [across, up] = normal[axis]! > 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3];
  const contour = Array.from(polygon, (vertex) => new Vector2(p[vertex * 3 + across]!, p[vertex * 3 + up]!));
  const faces = ShapeUtils.triangulateShape(contour, []);
  if (faces.length !== polygon.length - 2) return null;
  return faces.flat().map((corner) => polygon[corner]!);
}
