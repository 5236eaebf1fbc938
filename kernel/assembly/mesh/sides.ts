// Finds the side across each side of each triangle.

const OPEN: i32 = -1;
const CROWDED: i32 = -2;
/** Most sides in a chain; those of a place with more are looked up in a table. */
const CROWD: u8 = 32;

let table: usize = 0;
let tableMask: u32 = 0;

function hashOf(low: u32, high: u32): u32 {
  const mixed = (low * 0x9e3779b1) ^ (high * 0x85ebca6b);
  return mixed ^ (mixed >>> 15);
}

function otherCorner(corners: usize, side: u32): u32 {
  return load<u32>(corners + ((<usize>(side % 3 === 2 ? side - 2 : side + 1)) << 2));
}

/** The place at the other end of a side that has `low` at one. */
function highOf(corners: usize, side: u32, low: u32): u32 {
  const from = load<u32>(corners + ((<usize>side) << 2));
  return from === low ? otherCorner(corners, side) : from;
}

/** Makes the table at a place of the memory behind which nothing is. */
function openTable(at: usize, sides: u32): void {
  let slots: u32 = 16;
  while (slots < sides * 2) slots <<= 1;
  const end = at + ((<usize>slots) << 2);
  const have = (<usize>memory.size()) << 16;
  if (end > have) memory.grow(<i32>((end - have + 0xffff) >> 16));
  memory.fill(at, 0, (<usize>slots) << 2);
  table = at;
  tableMask = slots - 1;
}

function enter(low: u32, high: u32, side: u32): void {
  let slot = hashOf(low, high) & tableMask;
  while (load<u32>(table + ((<usize>slot) << 2)) !== 0) slot = (slot + 1) & tableMask;
  store<u32>(table + ((<usize>slot) << 2), side + 1);
}

function lookUp(corners: usize, low: u32, high: u32): i32 {
  let slot = hashOf(low, high) & tableMask;
  let found = load<u32>(table + ((<usize>slot) << 2));
  while (found !== 0) {
    const side = found - 1;
    const from = load<u32>(corners + ((<usize>side) << 2));
    const to = otherCorner(corners, side);
    if (min(from, to) === low && max(from, to) === high) return <i32>side;
    slot = (slot + 1) & tableMask;
    found = load<u32>(table + ((<usize>slot) << 2));
  }
  return -1;
}

/**
 * @param corners u32 place numbers, three a triangle
 * @param list u32 numbers of the sides that are looked for; 0 for all
 * @param across i32 a side, with OPEN where a side is looked for
 * @param heads i32 a place, -1 each
 * @param chain u32 a side: of one that is the first between its two places, the next such of its lower place
 * @param lengths a byte a place, 0 each
 * @param spare free memory to its end
 */
export function findSides(
  corners: usize,
  list: usize,
  count: u32,
  sides: u32,
  across: usize,
  heads: usize,
  chain: usize,
  lengths: usize,
  spare: usize,
): void {
  table = 0;
  for (let k: u32 = 0; k < count; k++) {
    const side = list ? load<u32>(list + ((<usize>k) << 2)) : k;
    const from = load<u32>(corners + ((<usize>side) << 2));
    const to = otherCorner(corners, side);
    const low = min(from, to);
    const high = max(from, to);
    const head = heads + ((<usize>low) << 2);
    const length = load<u8>(lengths + low);
    let first: i32;
    if (length === CROWD) first = lookUp(corners, low, high);
    else {
      first = load<i32>(head);
      while (first >= 0 && highOf(corners, first, low) !== high) first = load<i32>(chain + ((<usize>first) << 2));
    }
    if (first >= 0) {
      const own = across + ((<usize>side) << 2);
      const other = across + ((<usize>first) << 2);
      const was = load<i32>(other);
      if (was === OPEN) {
        store<i32>(other, <i32>side);
        store<i32>(own, first);
      } else {
        if (was >= 0) store<i32>(across + ((<usize>was) << 2), CROWDED);
        store<i32>(other, CROWDED);
        store<i32>(own, CROWDED);
      }
      continue;
    }
    store<i32>(chain + ((<usize>side) << 2), load<i32>(head));
    store<i32>(head, <i32>side);
    if (length === CROWD) enter(low, high, side);
    else {
      store<u8>(lengths + low, length + 1);
      if (length + 1 < CROWD) continue;
      if (!table) openTable(spare, sides);
      for (let each = <i32>side; each >= 0; each = load<i32>(chain + ((<usize>each) << 2)))
        enter(low, highOf(corners, each, low), <u32>each);
    }
  }
}

/** Writes the numbers of sides with nothing across. @returns how many there are */
export function openSides(across: usize, sides: u32, out: usize): u32 {
  let count: u32 = 0;
  for (let side: u32 = 0; side < sides; side++) {
    store<u32>(out + ((<usize>count) << 2), side);
    count += load<i32>(across + ((<usize>side) << 2)) === OPEN ? 1 : 0;
  }
  return count;
}

/** Writes the numbers of sides of which an end is marked. @param marks a byte a place @returns how many there are */
export function markedSides(corners: usize, triangles: u32, marks: usize, out: usize): u32 {
  let count: u32 = 0;
  for (let t: u32 = 0; t < triangles; t++) {
    const at = corners + <usize>t * 12;
    const a = load<u8>(marks + load<u32>(at));
    const b = load<u8>(marks + load<u32>(at, 4));
    const c = load<u8>(marks + load<u32>(at, 8));
    if ((a | b | c) === 0) continue;
    if (a | b) {
      store<u32>(out + ((<usize>count) << 2), t * 3);
      count++;
    }
    if (b | c) {
      store<u32>(out + ((<usize>count) << 2), t * 3 + 1);
      count++;
    }
    if (c | a) {
      store<u32>(out + ((<usize>count) << 2), t * 3 + 2);
      count++;
    }
  }
  return count;
}

/** The greatest of some numbers and 1, 0 of none. */
export function countTo(numbers: usize, count: u32): u32 {
  let most: u32 = 0;
  for (let k: u32 = 0; k < count; k++) most = max(most, load<u32>(numbers + ((<usize>k) << 2)) + 1);
  return most;
}

/** Whether all triangles pass the sides they share in opposite directions. */
export function sidesAgree(corners: usize, across: usize, sides: u32): bool {
  for (let side: u32 = 0; side < sides; side++) {
    const other = load<i32>(across + ((<usize>side) << 2));
    if (other <= <i32>side) continue;
    if (load<u32>(corners + ((<usize>other) << 2)) === load<u32>(corners + ((<usize>side) << 2))) return false;
  }
  return true;
}

/** The corner of a side's triangle that is no end of it. */
function cornerOff(side: u32): u32 {
  return side % 3 === 0 ? side + 2 : side - 1;
}

/**
 * Writes the numbers of triangles that may have a twin: each of their sides lies at the twin's or is crowded.
 * @returns how many there are
 */
export function likeTwins(corners: usize, across: usize, triangles: u32, out: usize): u32 {
  let count: u32 = 0;
  for (let t: u32 = 0; t < triangles; t++) {
    const at = across + <usize>t * 12;
    const first = load<i32>(at);
    const second = load<i32>(at, 4);
    // The twin is one triangle.
    if (first >= 0 && second >= 0 && <u32>first / 3 !== <u32>second / 3) continue;
    let may = true;
    for (let side = t * 3; side < t * 3 + 3 && may; side++) {
      const other = load<i32>(across + ((<usize>side) << 2));
      if (other === OPEN) may = false;
      else if (other >= 0)
        may = load<u32>(corners + (<usize>cornerOff(<u32>other) << 2)) === load<u32>(corners + (<usize>cornerOff(side) << 2)); // prettier-ignore
    }
    store<u32>(out + ((<usize>count) << 2), t);
    count += may ? 1 : 0;
  }
  return count;
}
