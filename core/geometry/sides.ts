import type { TriangleMesh } from './sweep';

/** Edge in millimetres of a picture on a surface without coordinates of its own; see `projectFromSides` of the kernel. */
const PICTURE_EDGE = 100;

/**
 * Coordinates, two a vertex, of pictures laid on from the six sides of the mesh's own space, each vertex from the side its normal
 * faces most: upright and unmirrored, v downwards. The kernel does the same triangle by triangle.
 */
export function sideCoordinates({ positions, normals }: TriangleMesh): Float32Array {
  const uvs = new Float32Array((positions.length / 3) * 2);
  for (let k = 0; k * 3 < positions.length; k++) {
    const [x, y, z] = [positions[k * 3]!, positions[k * 3 + 1]!, positions[k * 3 + 2]!];
    const [nx, ny, nz] = [normals[k * 3]!, normals[k * 3 + 1]!, normals[k * 3 + 2]!];
    const upright = Math.abs(ny) < Math.abs(nx) || Math.abs(ny) < Math.abs(nz);
    const across = !upright ? x : Math.abs(nx) > Math.abs(nz) ? (nx < 0 ? z : -z) : nz < 0 ? -x : x;
    const down = upright ? -y : ny < 0 ? -z : z;
    uvs.set([0.5 + across / PICTURE_EDGE, 0.5 + down / PICTURE_EDGE], k * 2);
  }
  return uvs;
}
