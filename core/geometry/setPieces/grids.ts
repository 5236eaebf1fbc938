import type { TriangleMesh } from '../sweep';

/** Position, normal, and picture coordinates where they are not even. */
type Numbers = [number, number, number, number, number, number];
type GridPoint = Numbers | [...Numbers, number, number];

/** Grids of quads, each a face: u runs along rows, v across; u turned towards v, then the way out, make a right hand. */
export class Grids {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly uvs: number[] = [];
  private readonly indices: number[] = [];
  private readonly faces: number[] = [];
  private count = 0;

  /** @param at position and normal at u and v from 0 to 1 */
  add(across: number, down: number, at: (u: number, v: number) => GridPoint): void {
    const first = this.positions.length / 3;
    for (let j = 0; j <= down; j++) {
      for (let i = 0; i <= across; i++) {
        const [x, y, z, nx, ny, nz, s = i / across, t = 1 - j / down] = at(i / across, j / down);
        this.positions.push(x, y, z);
        this.normals.push(nx, ny, nz);
        this.uvs.push(s, t);
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
