/** Which vertices stand at one place. */
export interface Weld {
  /** For each vertex the number of its place; places are numbered from 0 in the order of their first vertex. */
  places: Uint32Array;
  count: number;
}

const EMPTY = 0xffffffff;

/**
 * Finds vertices that stand at one place.
 * @param positions xyz triples, finite
 * @param tolerance largest distance between vertices that count as one, in the unit of the positions; 0 joins only equal ones
 */
export function weldPositions(positions: Float32Array, tolerance = 0): Weld {
  const vertices = positions.length / 3;
  const places = new Uint32Array(vertices);
  // Cells are as wide as the tolerance reaches, so that a partner is in the own cell or in one beside it.
  const cell = tolerance > 0 ? tolerance * 2 : 0;
  const size = 1 << Math.max(4, Math.ceil(Math.log2(vertices * 2 + 1)));
  const heads = new Uint32Array(size).fill(EMPTY);
  const chain = new Uint32Array(vertices).fill(EMPTY);
  const bits = new Int32Array(3);
  const coordinates = new Float32Array(bits.buffer);
  const slotOf = (x: number, y: number, z: number) =>
    ((Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f)) >>> 0) & (size - 1);
  const square = tolerance * tolerance;
  let count = 0;
  const search = (slot: number, x: number, y: number, z: number): number => {
    for (let at = heads[slot]!; at !== EMPTY; at = chain[at]!) {
      const dx = positions[at * 3]! - x;
      const dy = positions[at * 3 + 1]! - y;
      const dz = positions[at * 3 + 2]! - z;
      if (dx * dx + dy * dy + dz * dz <= square) return at;
    }
    return EMPTY;
  };
  for (let vertex = 0; vertex < vertices; vertex++) {
    const [x, y, z] = [positions[vertex * 3]!, positions[vertex * 3 + 1]!, positions[vertex * 3 + 2]!];
    let own: number;
    let found = EMPTY;
    if (cell === 0) {
      // Adding zero makes minus zero the same bits as zero.
      coordinates[0] = x + 0;
      coordinates[1] = y + 0;
      coordinates[2] = z + 0;
      own = slotOf(bits[0]!, bits[1]!, bits[2]!);
      found = search(own, x, y, z);
    } else {
      const [i, j, k] = [Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)];
      own = slotOf(i, j, k);
      // Only the neighbours on the nearer sides can hold a partner.
      const [si, sj, sk] = [x / cell - i < 0.5 ? -1 : 1, y / cell - j < 0.5 ? -1 : 1, z / cell - k < 0.5 ? -1 : 1];
      for (let side = 0; side < 8 && found === EMPTY; side++) {
        found = search(slotOf(i + (side & 1 ? si : 0), j + (side & 2 ? sj : 0), k + (side & 4 ? sk : 0)), x, y, z);
      }
    }
    if (found !== EMPTY) {
      places[vertex] = places[found]!;
      continue;
    }
    chain[vertex] = heads[own]!;
    heads[own] = vertex;
    places[vertex] = count++;
  }
  return { places, count };
}
