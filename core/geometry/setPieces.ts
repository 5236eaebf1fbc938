import { RoundedBoxGeometry } from 'three/examples/jsm/geometries/RoundedBoxGeometry.js';
import { BoxGeometry, type BufferGeometry } from 'three';
import { countUp, type TriangleMesh } from './sweep';

/** A simple body by its dimensions in millimetres, as the document keeps it; see there for what they mean. */
export type PieceShape =
  | { kind: 'plane'; width: number; depth: number }
  | { kind: 'box'; width: number; height: number; depth: number; bevel: number }
  | { kind: 'cylinder'; radius: number; height: number; bevel: number }
  | { kind: 'sphere'; radius: number }
  | { kind: 'disc'; radius: number; hole: number }
  | { kind: 'tube'; radius: number; wall: number; height: number }
  | { kind: 'frame'; width: number; height: number; bar: number; depth: number; section: 'rectangular' | 'round' }
  | { kind: 'sweep'; width: number; depth: number; height: number; radius: number };

/** Steps round a whole turn: a silhouette stays within a three-thousandth of its radius of round. */
const TURN = 128;
/** Steps round a quarter of a bevel or curve. */
const QUARTER = 12;

/** The triangles of a set piece with normals, picture coordinates and faces; it stands on y = 0, over its origin. */
export function pieceMesh(piece: PieceShape): TriangleMesh {
  switch (piece.kind) {
    case 'plane': {
      const { width: w, depth: d } = piece;
      const made = new Grids();
      made.add(1, 1, (u, v) => [(u - 0.5) * w, 0, (v - 0.5) * d, 0, 1, 0]);
      return made.finish();
    }
    case 'box':
      return boxMesh(piece);
    case 'cylinder': {
      const { radius, height } = piece;
      const bevel = Math.min(piece.bevel, radius, height / 2);
      return lathe([
        [[0, 0, 0, -1], [radius - bevel, 0, 0, -1]],
        ...arc(radius - bevel, bevel, bevel, -Math.PI / 2, 0),
        [[radius, bevel, 1, 0], [radius, height - bevel, 1, 0]],
        ...arc(radius - bevel, height - bevel, bevel, 0, Math.PI / 2),
        [[radius - bevel, height, 0, 1], [0, height, 0, 1]],
      ]); // prettier-ignore
    }
    case 'sphere':
      return lathe(arc(0, piece.radius, piece.radius, -Math.PI / 2, Math.PI / 2, TURN / 2));
    case 'disc':
      return lathe([[[piece.radius, 0, 0, 1], [Math.min(piece.hole, piece.radius * 0.999), 0, 0, 1]]]); // prettier-ignore
    case 'tube': {
      const { radius, height } = piece;
      const hole = Math.max(radius * 0.001, radius - piece.wall);
      return lathe([
        [[hole, 0, 0, -1], [radius, 0, 0, -1]],
        [[radius, 0, 1, 0], [radius, height, 1, 0]],
        [[radius, height, 0, 1], [hole, height, 0, 1]],
        [[hole, height, -1, 0], [hole, 0, -1, 0]],
      ]); // prettier-ignore
    }
    case 'frame':
      return frameMesh(piece);
    case 'sweep': {
      const { width, depth, height } = piece;
      const radius = Math.min(piece.radius, depth, height);
      const made = new Grids();
      const strip = (points: ProfilePoint[]) =>
        made.add(points.length - 1, 1, (u, v) => {
          const [z, y, nz, ny] = points[Math.round(u * (points.length - 1))]!;
          return [(0.5 - v) * width, y, z, 0, ny, nz];
        });
      const back = -depth / 2;
      strip([[depth / 2, 0, 0, 1], [back + radius, 0, 0, 1]]); // prettier-ignore
      strip(
        Array.from({ length: QUARTER * 4 + 1 }, (_, k) => {
          const angle = (k / (QUARTER * 4)) * (Math.PI / 2);
          const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
          return [back + radius - radius * sin, radius - radius * cos, sin, cos];
        }),
      );
      if (height > radius) strip([[back, radius, 1, 0], [back, height, 1, 0]]); // prettier-ignore
      return made.finish();
    }
  }
}

/** Distance from the axis, height, and the normal in these two directions. */
type ProfilePoint = [number, number, number, number];

/** An arc of a profile round (r, y), counter-clockwise; nothing where it has no size. */
function arc(r: number, y: number, radius: number, from: number, to: number, steps = QUARTER): ProfilePoint[][] {
  if (radius <= 0) return [];
  return [
    Array.from({ length: steps + 1 }, (_, k) => {
      const angle = from + (k / steps) * (to - from);
      const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
      return [Math.max(0, r + radius * cos), y + radius * sin, cos, sin];
    }),
  ];
}

/** Turns strips of a profile about the vertical; each becomes a face. Strips run upwards on the outside. */
function lathe(strips: ProfilePoint[][]): TriangleMesh {
  const made = new Grids();
  for (const points of strips) {
    if (points.every(([r]) => r === 0)) continue;
    made.add(TURN, points.length - 1, (u, v) => {
      const [r, y, nr, ny] = points[Math.round(v * (points.length - 1))]!;
      const [cos, sin] = [Math.cos(u * 2 * Math.PI), -Math.sin(u * 2 * Math.PI)];
      return [r * cos, y, r * sin, nr * cos, ny, nr * sin];
    });
  }
  return made.finish();
}

function boxMesh({ width, height, depth, ...piece }: Extract<PieceShape, { kind: 'box' }>): TriangleMesh {
  const bevel = Math.min(piece.bevel, width / 2, height / 2, depth / 2);
  const geometry =
    bevel > 0
      ? new RoundedBoxGeometry(width, height, depth, 4, bevel)
      : (new BoxGeometry(width, height, depth) as BufferGeometry);
  geometry.translate(0, height / 2, 0);
  const array = (name: string) => geometry.getAttribute(name).array as Float32Array;
  const positions = array('position');
  const indices = geometry.index ? new Uint32Array(geometry.index.array) : countUp(positions.length / 3);
  const faces = new Uint32Array(indices.length / 3);
  for (const { start, count, materialIndex } of geometry.groups) {
    faces.fill(materialIndex ?? 0, start / 3, (start + count) / 3);
  }
  // v goes downwards in our pictures.
  const uvs = array('uv').map((v, k) => (k % 2 === 1 ? 1 - v : v));
  return { positions, normals: array('normal'), indices, uvs, faces };
}

function frameMesh({ width, height, bar, depth, section }: Extract<PieceShape, { kind: 'frame' }>): TriangleMesh {
  const half = Math.min(bar, width, height) / 2;
  // The section: outwards in the frame's plane, forwards, and the normal in these.
  const round = arc(0, 0, half, 0, 2 * Math.PI, QUARTER * 4)[0]!.map((_, k, all): ProfilePoint => {
    const angle = (k / (all.length - 1)) * 2 * Math.PI;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    return [half * cos, half * sin, cos, sin];
  });
  const d = depth / 2;
  const square: ProfilePoint[][] = [
    [[half, -d, 1, 0], [half, d, 1, 0]],
    [[half, d, 0, 1], [-half, d, 0, 1]],
    [[-half, d, -1, 0], [-half, -d, -1, 0]],
    [[-half, -d, 0, -1], [half, -d, 0, -1]],
  ]; // prettier-ignore
  const [x, y] = [width / 2 - half, height / 2 - half];
  const corners = [[-x, -y], [x, -y], [x, y], [-x, y]] as const; // prettier-ignore
  const outward = [[0, -1], [1, 0], [0, 1], [-1, 0]] as const; // prettier-ignore
  const made = new Grids();
  for (const strip of section === 'round' ? [round] : square) {
    for (let side = 0; side < 4; side++) {
      const n = outward[side]!;
      made.add(strip.length - 1, 1, (u, v) => {
        const [s, t, ns, nt] = strip[Math.round(u * (strip.length - 1))]!;
        // Bars meet at a mitre: at a corner, what is outwards of both sides shifts along both.
        const [corner, beside] = v < 0.5 ? [corners[side]!, outward[(side + 3) % 4]!] : [corners[(side + 1) % 4]!, outward[(side + 1) % 4]!]; // prettier-ignore
        return [
          corner[0] + s * (n[0] + beside[0]),
          corner[1] + s * (n[1] + beside[1]) + height / 2,
          t,
          ns * n[0],
          ns * n[1],
          nt,
        ];
      });
    }
  }
  return made.finish();
}

/** Grids of quads, each a face: u runs along rows, v across; u turned towards v, then the way out, make a right hand. */
class Grids {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly uvs: number[] = [];
  private readonly indices: number[] = [];
  private readonly faces: number[] = [];
  private count = 0;

  /** @param at position and normal at u and v from 0 to 1 */
  add(
    across: number,
    down: number,
    at: (u: number, v: number) => [number, number, number, number, number, number],
  ): void {
    const first = this.positions.length / 3;
    for (let j = 0; j <= down; j++) {
      for (let i = 0; i <= across; i++) {
        const [x, y, z, nx, ny, nz] = at(i / across, j / down);
        this.positions.push(x, y, z);
        this.normals.push(nx, ny, nz);
        this.uvs.push(i / across, 1 - j / down);
      }
    }
    for (let j = 0; j < down; j++) {
      for (let i = 0; i < across; i++) {
        const a = first + j * (across + 1) + i;
        const [b, c, d] = [a + 1, a + across + 2, a + across + 1];
        this.triangle(a, b, c);
        this.triangle(a, c, d);
      }
    }
    this.count++;
  }

  private triangle(a: number, b: number, c: number): void {
    const { positions: p, normals: n } = this;
    const [i, j, k] = [a * 3, b * 3, c * 3];
    const ux = p[j]! - p[i]!;
    const uy = p[j + 1]! - p[i + 1]!;
    const uz = p[j + 2]! - p[i + 2]!;
    const vx = p[k]! - p[i]!;
    const vy = p[k + 1]! - p[i + 1]!;
    const vz = p[k + 2]! - p[i + 2]!;
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    // At the poles of a lathe a side has no length.
    if (x * x + y * y + z * z < 1e-24) return;
    const way =
      x * (n[i]! + n[j]! + n[k]!) + y * (n[i + 1]! + n[j + 1]! + n[k + 1]!) + z * (n[i + 2]! + n[j + 2]! + n[k + 2]!);
    if (way >= 0) this.indices.push(a, b, c);
    else this.indices.push(a, c, b);
    this.faces.push(this.count);
  }

  finish(): TriangleMesh {
    return {
      positions: new Float32Array(this.positions),
      normals: new Float32Array(this.normals),
      uvs: new Float32Array(this.uvs),
      indices: new Uint32Array(this.indices),
      faces: new Uint32Array(this.faces),
    };
  }
}
