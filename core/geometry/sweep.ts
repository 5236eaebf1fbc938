/** Triangles with smooth normals; positions and normals are xyz triples, millimetres, Y up. */
export interface TriangleMesh {
  positions: Float32Array;
  normals: Float32Array;
  /** Three vertex numbers per triangle, counter-clockwise seen from outside. */
  indices: Uint32Array;
  /** Two coordinates a vertex, v downwards as in the picture, where the surface can carry pictures. */
  uvs?: Float32Array;
  /** Number of the face each triangle belongs to: of the solid it was cut from, or between its creases. */
  faces?: Uint32Array;
}

/** The indices of loose triangles: 0, 1, 2 and so on. */
export function countUp(count: number): Uint32Array<ArrayBuffer> {
  const numbers = new Uint32Array(count);
  for (let at = 0; at < count; at++) numbers[at] = at;
  return numbers;
}

/** A square floor of edge `size` round the origin, top side up. */
export function floorMesh(size: number): TriangleMesh {
  const h = size / 2;
  return {
    positions: new Float32Array([-h, 0, -h, h, 0, -h, h, 0, h, -h, 0, h]),
    normals: new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
    indices: new Uint32Array([0, 2, 1, 0, 3, 2]),
  };
}

const CURVE_STEPS = 48;

/**
 * A studio sweep: a floor that runs back from the front edge and curves up into a wall.
 * @param size width and wall height in millimetres
 * @param depth how far behind the origin the curve begins; its radius is a quarter of `size`
 */
export function sweepMesh(size: number, depth: number): TriangleMesh {
  const radius = size / 4;
  const profile: { y: number; z: number; ny: number; nz: number }[] = [{ y: 0, z: size / 2, ny: 1, nz: 0 }];
  for (let step = 0; step <= CURVE_STEPS; step++) {
    const angle = (step / CURVE_STEPS) * (Math.PI / 2);
    profile.push({
      y: radius * (1 - Math.cos(angle)),
      z: -depth - radius * Math.sin(angle),
      ny: Math.cos(angle),
      nz: Math.sin(angle),
    });
  }
  profile.push({ y: Math.max(size, radius * 1.01), z: -depth - radius, ny: 0, nz: 1 });
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  profile.forEach(({ y, z, ny, nz }, row) => {
    positions.push(-size, y, z, size, y, z);
    normals.push(0, ny, nz, 0, ny, nz);
    if (row > 0) {
      const at = row * 2;
      indices.push(at - 2, at - 1, at, at, at - 1, at + 1);
    }
  });
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals),
    indices: new Uint32Array(indices),
  };
}
