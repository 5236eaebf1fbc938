import type { Vector } from './vector';

/** Directions that are evenly spread over a ball: the corners, edges and faces of a cube, and as many between them. */
const DIRECTIONS: Vector[] = (() => {
  const made: Vector[] = [];
  const golden = Math.PI * (3 - Math.sqrt(5));
  const count = 48;
  for (let k = 0; k < count; k++) {
    const y = 1 - (2 * (k + 0.5)) / count;
    const r = Math.sqrt(1 - y * y);
    made.push([r * Math.cos(k * golden), y, r * Math.sin(k * golden)]);
  }
  for (const axis of [0, 1, 2])
    for (const sign of [1, -1]) made.push([0, 1, 2].map((k) => (k === axis ? sign : 0)) as unknown as Vector);
  return made;
})();
/** Vertices of a mesh that are looked at. */
const MOST = 200_000;

/**
 * The vertices of a mesh that lie farthest out in many directions: what the silhouette of its hull goes through.
 * @param positions triples
 * @returns triples, each vertex once
 */
export function outlineOf(positions: Float32Array): Float32Array {
  const vertices = positions.length / 3;
  const stride = Math.max(1, Math.ceil(vertices / MOST));
  const far = new Float64Array(DIRECTIONS.length).fill(-Infinity);
  const at = new Int32Array(DIRECTIONS.length).fill(-1);
  for (let vertex = 0; vertex < vertices; vertex += stride) {
    const [x, y, z] = [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
    for (let k = 0; k < DIRECTIONS.length; k++) {
      const direction = DIRECTIONS[k]!;
      const out = x * direction[0] + y * direction[1] + z * direction[2];
      if (out > far[k]!) {
        far[k] = out;
        at[k] = vertex;
      }
    }
  }
  const chosen = [...new Set(at)].filter((vertex) => vertex >= 0);
  const made = new Float32Array(3 * chosen.length);
  chosen.forEach((vertex, k) => made.set(positions.subarray(3 * vertex, 3 * vertex + 3), 3 * k));
  return made;
}
