/**
 * Vertex normals from triangles, weighted by the angle at each corner
 * (Thürmer and Wüthrich, Computing Vertex Normals from Polygonal Facets, 1998).
 * Vertices that no triangle with an area uses get straight up.
 */
export function smoothNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(positions.length);
  const corner = [0, 0, 0];
  for (let at = 0; at < indices.length; at += 3) {
    for (let c = 0; c < 3; c++) corner[c] = indices[at + c]! * 3;
    const edges = [0, 1, 2].map((c) => {
      const from = corner[c]!;
      const to = corner[(c + 1) % 3]!;
      const e = [0, 1, 2].map((k) => positions[to + k]! - positions[from + k]!) as [number, number, number];
      const size = Math.hypot(...e) || 1;
      return e.map((v) => v / size) as [number, number, number];
    });
    const [e0, e1] = [edges[0]!, edges[1]!];
    const n = [e0[1] * e1[2] - e0[2] * e1[1], e0[2] * e1[0] - e0[0] * e1[2], e0[0] * e1[1] - e0[1] * e1[0]];
    const size = Math.hypot(...n);
    if (!(size > 1e-12)) continue;
    for (let c = 0; c < 3; c++) {
      const out = edges[c]!;
      const back = edges[(c + 2) % 3]!;
      const cosine = -(out[0] * back[0] + out[1] * back[1] + out[2] * back[2]);
      const angle = Math.acos(Math.min(1, Math.max(-1, cosine)));
      for (let k = 0; k < 3; k++) normals[corner[c]! + k]! += (n[k]! / size) * angle;
    }
  }
  for (let at = 0; at < normals.length; at += 3) {
    const size = Math.hypot(normals[at]!, normals[at + 1]!, normals[at + 2]!);
    if (size > 1e-12) for (let k = 0; k < 3; k++) normals[at + k]! /= size;
    else normals[at + 1] = 1;
  }
  return normals;
}
