/** Which vertices stand at one place. */
export interface Weld {
  /** For each vertex the number of its place; places are numbered from 0 in the order of their first vertex. */
  places: Uint32Array;
  count: number;
}

const EMPTY = 0xffffffff;

/** How many tolerances wide a cell is: so wide that few vertices stand near its walls, so narrow that few stand in it. */
const CELL = 64;

/**
 * Finds vertices that stand at one place.
 * @param positions xyz triples, finite
 * @param tolerance largest distance between vertices that count as one, in the unit of the positions; 0 joins only equal ones
 */
export function weldPositions(positions: Float32Array, tolerance = 0): Weld {
  const equal = weldEqual(positions);
  if (!(tolerance > 0)) return equal;
  const near = weldNear(positions, firstOfPlaces(equal), tolerance);
  if (near.count === equal.count) return equal;
  const { places } = equal;
  for (let vertex = 0; vertex < places.length; vertex++) places[vertex] = near.places[places[vertex]!]!;
  return { places, count: near.count };
}

/** The first vertex at each place. */
function firstOfPlaces({ places, count }: Weld): Uint32Array {
  const first = new Uint32Array(count);
  let known = 0;
  for (let vertex = 0; known < count; vertex++) if (places[vertex] === known) first[known++] = vertex;
  return first;
}

/** Vertices with equal coordinates, by a table of them with open addresses. */
function weldEqual(positions: Float32Array): Weld {
  const vertices = positions.length / 3;
  const places = new Uint32Array(vertices);
  const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length);
  const last = (1 << Math.max(4, Math.ceil(Math.log2(vertices * 1.5 + 1)))) - 1;
  // Vertices by their hash; a place is found through its first vertex.
  const table = new Uint32Array(last + 1).fill(EMPTY);
  let count = 0;
  for (let vertex = 0; vertex < vertices; vertex++) {
    const at = vertex * 3;
    // Minus zero is shifted out to the bits of zero: both are one place.
    const x = bits[at]! === -0x80000000 ? 0 : bits[at]!;
    const y = bits[at + 1]! === -0x80000000 ? 0 : bits[at + 1]!;
    const z = bits[at + 2]! === -0x80000000 ? 0 : bits[at + 2]!;
    let slot = hash(x, y, z) & last;
    let other = table[slot]!;
    for (; other !== EMPTY; slot = (slot + 1) & last, other = table[slot]!) {
      const from = other * 3;
      if (
        positions[from] === positions[at] &&
        positions[from + 1] === positions[at + 1] &&
        positions[from + 2] === positions[at + 2]
      )
        break;
    }
    if (other !== EMPTY) places[vertex] = places[other]!;
    else {
      table[slot] = vertex;
      places[vertex] = count++;
    }
  }
  return { places, count };
}

/** Vertices within a distance of each other, by cells of space. */
function weldNear(positions: Float32Array, vertices: Uint32Array, tolerance: number): Weld {
  const cell = tolerance * CELL;
  const last = (1 << Math.max(4, Math.ceil(Math.log2(vertices.length * 1.5 + 1)))) - 1;
  const heads = new Uint32Array(last + 1).fill(EMPTY);
  const chain = new Uint32Array(vertices.length);
  const places = new Uint32Array(vertices.length);
  const square = tolerance * tolerance;
  let count = 0;
  for (let own = 0; own < vertices.length; own++) {
    const at = vertices[own]! * 3;
    const x = positions[at]!;
    const y = positions[at + 1]!;
    const z = positions[at + 2]!;
    // A partner stands in the own cell, or beyond a wall that is nearer than the tolerance.
    const toI = Math.floor((x + tolerance) / cell);
    const toJ = Math.floor((y + tolerance) / cell);
    const toK = Math.floor((z + tolerance) / cell);
    let found = EMPTY;
    for (let i = Math.floor((x - tolerance) / cell); i <= toI && found === EMPTY; i++)
      for (let j = Math.floor((y - tolerance) / cell); j <= toJ && found === EMPTY; j++)
        for (let k = Math.floor((z - tolerance) / cell); k <= toK && found === EMPTY; k++)
          for (let other = heads[hash(i, j, k) & last]!; other !== EMPTY; other = chain[other]!) {
            const from = vertices[other]! * 3;
            const dx = positions[from]! - x;
            const dy = positions[from + 1]! - y;
            const dz = positions[from + 2]! - z;
            if (dx * dx + dy * dy + dz * dz <= square) {
              found = other;
              break;
            }
          }
    if (found !== EMPTY) {
      places[own] = places[found]!;
      continue;
    }
    const slot = hash(Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)) & last;
    chain[own] = heads[slot]!;
    heads[slot] = own;
    places[own] = count++;
  }
  return { places, count };
}

function hash(x: number, y: number, z: number): number {
  const mixed = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f);
  // Coordinates on a grid differ in their upper bits only; these are folded down.
  return (mixed ^ (mixed >>> 15) ^ (mixed >>> 23)) >>> 0;
}
