// Numbers of vertices, taken from one list to another.

/** Writes for each of some numbers what a table has for it. */
export function lookedUp(numbers: usize, count: u32, table: usize, out: usize): void {
  for (let k: u32 = 0; k < count; k++) {
    const number = load<u32>(numbers + ((<usize>k) << 2));
    store<u32>(out + ((<usize>k) << 2), load<u32>(table + ((<usize>number) << 2)));
  }
}

/** Writes the xyz of some vertices. */
export function gatherPlaces(positions: usize, sources: usize, count: u32, out: usize): void {
  for (let k: u32 = 0; k < count; k++) {
    const from = positions + <usize>load<u32>(sources + ((<usize>k) << 2)) * 12;
    const to = out + <usize>k * 12;
    store<u32>(to, load<u32>(from));
    store<u32>(to, load<u32>(from, 4), 4);
    store<u32>(to, load<u32>(from, 8), 8);
  }
}

/**
 * Takes out of a file's positions those that corners name, in the order in which they do first.
 * @param named i32 positions by their number; what names none becomes 0xffffffff
 * @param numbers u32 a position, 0 each: 1 and the vertex made of it
 * @param places f32 xyz of the vertices
 * @param vertices u32 a corner
 * @returns how many vertices there are
 */
export function ownVertices(
  named: usize,
  corners: u32,
  positions: usize,
  known: u32,
  numbers: usize,
  places: usize,
  vertices: usize,
): u32 {
  let count: u32 = 0;
  for (let corner: u32 = 0; corner < corners; corner++) {
    const position = load<u32>(named + ((<usize>corner) << 2));
    let vertex: u32 = 0xffffffff;
    if (position < known) {
      const at = numbers + ((<usize>position) << 2);
      vertex = load<u32>(at) - 1;
      if (vertex === 0xffffffff) {
        vertex = count++;
        store<u32>(at, count);
        const from = positions + <usize>position * 12;
        const to = places + <usize>vertex * 12;
        store<u32>(to, load<u32>(from));
        store<u32>(to, load<u32>(from, 4), 4);
        store<u32>(to, load<u32>(from, 8), 8);
      }
    }
    store<u32>(vertices + ((<usize>corner) << 2), vertex);
  }
  return count;
}
