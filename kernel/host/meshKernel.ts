import { MESH_MODULE } from '../build/meshModule';
import { PAGE } from './kernel';

/** What the compiled module offers; see kernel/assembly/mesh. Addresses are bytes in its memory. */
export interface MeshPasses {
  findSides(
    corners: number,
    list: number,
    count: number,
    sides: number,
    across: number,
    heads: number,
    chain: number,
    lengths: number,
    spare: number,
  ): void;
  countTo(numbers: number, count: number): number;
  openSides(across: number, sides: number, out: number): number;
  likeTwins(corners: number, across: number, triangles: number, out: number): number;
  sidesAgree(corners: number, across: number, sides: number): number;
  markedSides(corners: number, triangles: number, marks: number, out: number): number;
  lookedUp(numbers: number, count: number, table: number, out: number): void;
  gatherPlaces(positions: number, sources: number, count: number, out: number): void;
  ownVertices(
    named: number,
    corners: number,
    positions: number,
    known: number,
    numbers: number,
    places: number,
    vertices: number,
  ): number;
  eachAlone(parent: number, count: number): void;
  joinSmooth(planes: number, corners: number, across: number, sides: number, cosine: number, parent: number): void;
  joinAcross(across: number, sides: number, parts: number, parent: number): void;
  joinCorners(corners: number, triangles: number, parent: number): void;
  numberSets(parent: number, count: number, out: number): number;
  allNear(list: number, count: number): number;
  faceNormals(
    positions: number,
    vertices: number,
    indices: number,
    triangles: number,
    planes: number,
    marks: number,
  ): number;
  cornerAngles(positions: number, indices: number, triangles: number, out: number): void;
  sumNormals(
    positions: number,
    indices: number,
    corners: number,
    triangles: number,
    planes: number,
    half: number,
    sums: number,
    first: number,
    sharp: number,
  ): number;
  directions(sums: number, places: number): void;
  shellVolumes(
    positions: number,
    indices: number,
    across: number,
    turned: number,
    region: number,
    triangles: number,
    sums: number,
  ): void;
  numberLines(text: number, end: number, letters: number, width: number, out: number): number;
  triangleLines(text: number, end: number, lists: number, out: number): number;
  numbersWritten(): number;
}

type Numbers = Float32Array | Uint32Array | Int32Array | Uint8Array;

/** First free byte after the module's constants. */
const BEGIN = PAGE;
/** A memory larger than this is given back after use. */
const KEPT_PAGES = 4096;

/** The module with its memory, in which whoever works takes one piece after the other. */
export class MeshKernel {
  readonly passes: MeshPasses;
  private readonly memory = new WebAssembly.Memory({ initial: 2, maximum: 65536 });
  private end = BEGIN;

  constructor(module: WebAssembly.Module) {
    const abort = () => {
      throw new Error('the mesh kernel stopped on a broken invariant');
    };
    const { exports } = new WebAssembly.Instance(module, { env: { memory: this.memory, abort } });
    this.passes = exports as unknown as MeshPasses;
  }

  /** Takes room. @returns its address, a multiple of eight; what is in it is anything unless it is filled with a byte */
  room(bytes: number, fill?: number): number {
    const at = this.end;
    this.end += Math.ceil(bytes / 8) * 8;
    const missing = this.end - this.memory.buffer.byteLength;
    if (missing > 0) this.memory.grow(Math.ceil(missing / PAGE));
    if (fill !== undefined) new Uint8Array(this.memory.buffer, at, bytes).fill(fill);
    return at;
  }

  /** Takes room for a copy of numbers. @returns its address */
  put(numbers: Numbers): number {
    const at = this.room(numbers.byteLength);
    this.write(numbers, at);
    return at;
  }

  write(numbers: Numbers, at: number): void {
    const { buffer, byteOffset, byteLength } = numbers;
    new Uint8Array(this.memory.buffer, at, byteLength).set(new Uint8Array(buffer, byteOffset, byteLength));
  }

  /** First byte behind all that was taken. */
  get spare(): number {
    return this.end;
  }

  /** Views of what stands at an address; gone once room is taken. */
  floats = (at: number, length: number): Float32Array<ArrayBuffer> =>
    new Float32Array(this.memory.buffer as ArrayBuffer, at, length);
  doubles = (at: number, length: number): Float64Array<ArrayBuffer> =>
    new Float64Array(this.memory.buffer as ArrayBuffer, at, length);
  numbers = (at: number, length: number): Uint32Array<ArrayBuffer> =>
    new Uint32Array(this.memory.buffer as ArrayBuffer, at, length);
  integers = (at: number, length: number): Int32Array<ArrayBuffer> =>
    new Int32Array(this.memory.buffer as ArrayBuffer, at, length);
  bytes = (at: number, length: number): Uint8Array<ArrayBuffer> =>
    new Uint8Array(this.memory.buffer as ArrayBuffer, at, length);

  /** Gives all room back. @returns whether the memory is small enough to be kept */
  empty(): boolean {
    this.end = BEGIN;
    return this.memory.buffer.byteLength <= KEPT_PAGES * PAGE;
  }
}

let compiled: WebAssembly.Module | null = null;
let kept: MeshKernel | null = null;

/** Works with the mesh kernel of this thread, from an empty memory on. Work inside of work has a kernel of its own. */
export function inMeshKernel<T>(work: (kernel: MeshKernel) => T): T {
  compiled ??= new WebAssembly.Module(Uint8Array.from(atob(MESH_MODULE), (each) => each.charCodeAt(0)));
  const kernel = kept ?? new MeshKernel(compiled);
  kept = null;
  const made = work(kernel);
  // After an error it is left as it is, for nobody.
  if (kernel.empty()) kept = kernel;
  return made;
}
