/** Which vertices stand at one place. */
export interface Weld {
  /** For each vertex the number of its place; places are numbered from 0 in the order of their first vertex. */
  places: Uint32Array;
  count: number;
  /** xyz of each place: those of its first vertex. */
  positions: Float32Array;
}

const EMPTY = -1;

/** How many tolerances wide a cell is: so wide that few vertices stand near its walls, so narrow that few stand in it. */
const CELL = 64;

/**
 * Finds vertices that stand at one place.
 * @param positions xyz triples, finite
 * @param tolerance largest distance between vertices that count as one, in the unit of the positions; 0 joins only equal ones
 */
export function weldPositions(positions: Float32Array, tolerance = 0): Weld {
  if (tolerance > 0) return weldNear(positions, tolerance);
  const table = new PlaceTable(positions.length / 3);
  const places = new Uint32Array(positions.length / 3);
  for (let vertex = 0; vertex < places.length; vertex++)
    places[vertex] = table.placeOf(positions[vertex * 3]!, positions[vertex * 3 + 1]!, positions[vertex * 3 + 2]!);
  return { places, count: table.count, positions: table.positions() };
}

/** Numbers places as they come, equal coordinates alike: a table with open addresses that grows. */
export class PlaceTable {
  count = 0;
  /** Coordinates, as the bits of single precision: what is equal then is so for numbers that are none, too. */
  private bits: Int32Array<ArrayBuffer>;
  /** Places by their hash, counted from 1: what is fresh is empty. */
  private slots: Int32Array<ArrayBuffer>;
  private last: number;

  /** @param expected about how many places there will be; more only make it slower */
  constructor(expected: number) {
    this.bits = new Int32Array(Math.ceil(expected) * 3 + 3);
    this.last = (1 << Math.max(4, Math.ceil(Math.log2(expected * 1.5 + 1)))) - 1;
    this.slots = new Int32Array(this.last + 1);
  }

  /** The number of the place with these coordinates, rounded to single precision. */
  placeOf(x: number, y: number, z: number): number {
    ROUNDED[0] = x;
    ROUNDED[1] = y;
    ROUNDED[2] = z;
    return this.placeOfBits(BITS[0]!, BITS[1]!, BITS[2]!);
  }

  /** The number of the place whose coordinates have these bits in single precision. */
  placeOfBits(x: number, y: number, z: number): number {
    const { count, slots, bits, last } = this;
    // Minus zero is zero: both are one place.
    const a = x === MINUS_ZERO ? 0 : x;
    const b = y === MINUS_ZERO ? 0 : y;
    const c = z === MINUS_ZERO ? 0 : z;
    let slot = hash(a, b, c) & last;
    for (let other = slots[slot]!; other > 0; slot = (slot + 1) & last, other = slots[slot]!) {
      const at = other * 3 - 3;
      if (bits[at] === a && bits[at + 1] === b && bits[at + 2] === c) return other - 1;
    }
    slots[slot] = count + 1;
    const own = count * 3;
    bits[own] = a;
    bits[own + 1] = b;
    bits[own + 2] = c;
    this.count = count + 1;
    if (own + 6 > bits.length || count * 4 > slots.length * 3) this.grow();
    return count;
  }

  /** xyz of all places so far. */
  positions(): Float32Array<ArrayBuffer> {
    return new Float32Array(this.bits.buffer, 0, this.count * 3).slice();
  }

  private grow(): void {
    const { count, bits } = this;
    if (count * 3 + 3 > bits.length) {
      this.bits = new Int32Array(bits.length * 2);
      this.bits.set(bits);
    }
    if (count * 4 <= this.slots.length * 3) return;
    this.last = this.slots.length * 2 - 1;
    const slots = (this.slots = new Int32Array(this.last + 1));
    for (let place = 0; place < count; place++) {
      const at = place * 3;
      let slot = hash(this.bits[at]!, this.bits[at + 1]!, this.bits[at + 2]!) & this.last;
      while (slots[slot] !== 0) slot = (slot + 1) & this.last;
      slots[slot] = place + 1;
    }
  }
}

const MINUS_ZERO = -0x80000000;
const ROUNDED = new Float32Array(3);
const BITS = new Int32Array(ROUNDED.buffer);

/** Vertices within a distance of each other, by cells of space. */
function weldNear(positions: Float32Array, tolerance: number): Weld {
  const vertices = positions.length / 3;
  const cell = tolerance * CELL;
  const last = (1 << Math.max(4, Math.ceil(Math.log2(vertices + 1)))) - 1;
  // The places of a cell in a chain that begins at its head.
  const heads = new Int32Array(last + 1).fill(EMPTY);
  const chain = new Int32Array(vertices);
  const places = new Uint32Array(vertices);
  const welded = new Float32Array(positions.length);
  const square = tolerance * tolerance;
  const find = (head: number, x: number, y: number, z: number): number => {
    for (let other = head; other >= 0; other = chain[other]!) {
      const from = other * 3;
      const dx = welded[from]! - x;
      const dy = welded[from + 1]! - y;
      const dz = welded[from + 2]! - z;
      if (dx * dx + dy * dy + dz * dz <= square) return other;
    }
    return EMPTY;
  };
  let count = 0;
  for (let own = 0; own < vertices; own++) {
    const x = positions[own * 3]!;
    const y = positions[own * 3 + 1]!;
    const z = positions[own * 3 + 2]!;
    const i = Math.floor(x / cell);
    const j = Math.floor(y / cell);
    const k = Math.floor(z / cell);
    const slot = hash(i, j, k) & last;
    let found = find(heads[slot]!, x, y, z);
    if (found === EMPTY) {
      // Else a partner stands beyond a wall that is nearer than the tolerance.
      const i0 = Math.floor((x - tolerance) / cell);
      const i1 = Math.floor((x + tolerance) / cell);
      const j0 = Math.floor((y - tolerance) / cell);
      const j1 = Math.floor((y + tolerance) / cell);
      const k0 = Math.floor((z - tolerance) / cell);
      const k1 = Math.floor((z + tolerance) / cell);
      if (i0 !== i1 || j0 !== j1 || k0 !== k1) {
        for (let a = i0; a <= i1 && found === EMPTY; a++)
          for (let b = j0; b <= j1 && found === EMPTY; b++)
            for (let c = k0; c <= k1 && found === EMPTY; c++)
              if (a !== i || b !== j || c !== k) found = find(heads[hash(a, b, c) & last]!, x, y, z);
      }
    }
    if (found !== EMPTY) {
      places[own] = found;
      continue;
    }
    chain[count] = heads[slot]!;
    heads[slot] = count;
    welded[count * 3] = x;
    welded[count * 3 + 1] = y;
    welded[count * 3 + 2] = z;
    places[own] = count++;
  }
  return { places, count, positions: count === vertices ? welded : welded.slice(0, count * 3) };
}

function hash(x: number, y: number, z: number): number {
  const mixed = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f);
  // Coordinates on a grid differ in their upper bits only; these are folded down.
  return mixed ^ (mixed >>> 15) ^ (mixed >>> 23);
}
