import { corners, emptyBounds, growToPoint, type Bounds } from './bounds';
import type { TriangleMesh } from './sweep';
import { transformPoint, type Transform } from './transform';
import { cross, dot, normalize, type Vector } from './vector';

export interface DrawnPart {
  mesh: TriangleMesh;
  /** Bounds of the mesh in its own space. */
  bounds: Bounds;
  transform: Transform;
  /** Linear RGB. */
  color: Vector;
}

/** From the left front, a little from above, as products are shown. */
const THREE_QUARTER: Vector = [-0.5, 0.42, 0.76];

const LIGHT = normalize([-0.35, 0.75, 0.55]);

/**
 * A small plain picture of parts, without perspective, filling the frame: for lists and cards, where no tracer is needed.
 * @param from direction towards the viewer, Y up
 * @returns RGBA, 8 bits coded for a display, first row on top, clear where nothing is
 */
export function drawParts(
  parts: readonly DrawnPart[],
  width: number,
  height: number,
  from: Vector = THREE_QUARTER,
): Uint8ClampedArray<ArrayBuffer> {
  const z = normalize(from);
  const x = normalize(cross([0, 1, 0], z), [1, 0, 0]);
  const y = cross(z, x);
  const box = emptyBounds();
  for (const { bounds, transform } of parts) {
    if (!(bounds.low[0] <= bounds.high[0])) continue;
    for (const corner of corners(bounds)) {
      const p = transformPoint(transform, corner);
      growToPoint(box, [dot(p, x), dot(p, y), dot(p, z)]);
    }
  }
  const pixels = new Uint8ClampedArray(width * height * 4);
  const scale = 0.94 * Math.min(width / (box.high[0] - box.low[0] || 1), height / (box.high[1] - box.low[1] || 1));
  if (!Number.isFinite(scale)) return pixels;
  const [cx, cy] = [(box.low[0] + box.high[0]) / 2, (box.low[1] + box.high[1]) / 2];
  const depth = new Float32Array(width * height).fill(-Infinity);
  for (const { mesh, transform, color } of parts) {
    const { positions, indices } = mesh;
    const seen = new Float32Array(positions.length);
    for (let at = 0; at < positions.length; at += 3) {
      const p = transformPoint(transform, [positions[at]!, positions[at + 1]!, positions[at + 2]!]);
      seen[at] = width / 2 + (dot(p, x) - cx) * scale;
      seen[at + 1] = height / 2 - (dot(p, y) - cy) * scale;
      seen[at + 2] = dot(p, z) * scale;
    }
    for (let at = 0; at < indices.length; at += 3) {
      drawTriangle(
        seen,
        indices[at]! * 3,
        indices[at + 1]! * 3,
        indices[at + 2]! * 3,
        { x, y, z },
        color,
        pixels,
        depth,
        width,
        height,
      );
    }
  }
  return pixels;
}

function drawTriangle(
  p: Float32Array,
  a: number,
  b: number,
  c: number,
  view: { x: Vector; y: Vector; z: Vector },
  color: Vector,
  pixels: Uint8ClampedArray,
  depth: Float32Array,
  width: number,
  height: number,
): void {
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  const area = ux * vy - uy * vx;
  if (area === 0) return;
  const left = Math.max(0, Math.ceil(Math.min(p[a]!, p[b]!, p[c]!) - 0.5));
  const right = Math.min(width - 1, Math.floor(Math.max(p[a]!, p[b]!, p[c]!) - 0.5));
  const top = Math.max(0, Math.ceil(Math.min(p[a + 1]!, p[b + 1]!, p[c + 1]!) - 0.5));
  const bottom = Math.min(height - 1, Math.floor(Math.max(p[a + 1]!, p[b + 1]!, p[c + 1]!) - 0.5));
  if (left > right || top > bottom) return;
  // The picture's y runs down: the normal is turned back before it is compared with the light.
  const inView: Vector = normalize([-(uy * vz - uz * vy), uz * vx - ux * vz, -(ux * vy - uy * vx)]);
  const facing = inView[2] < 0 ? -1 : 1;
  const normal = [0, 1, 2].map(
    (k) => facing * (inView[0] * view.x[k]! + inView[1] * view.y[k]! + inView[2] * view.z[k]!),
  ) as [number, number, number];
  const light = 0.25 + 0.75 * Math.max(0, dot(normal, LIGHT));
  const shade = color.map((v) => 255 * Math.min(1, Math.max(0.015, v) * light) ** (1 / 2.2));
  for (let row = top; row <= bottom; row++) {
    for (let column = left; column <= right; column++) {
      const [dx, dy] = [column + 0.5 - p[a]!, row + 0.5 - p[a + 1]!];
      const s = (dx * vy - dy * vx) / area;
      const t = (ux * dy - uy * dx) / area;
      if (s < 0 || t < 0 || s + t > 1) continue;
      const far = p[a + 2]! + s * uz + t * vz;
      const at = row * width + column;
      if (far <= depth[at]!) continue;
      depth[at] = far;
      pixels[at * 4] = shade[0]!;
      pixels[at * 4 + 1] = shade[1]!;
      pixels[at * 4 + 2] = shade[2]!;
      pixels[at * 4 + 3] = 255;
    }
  }
}
