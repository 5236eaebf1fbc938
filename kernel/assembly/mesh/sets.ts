// Sets of whole numbers from 0 that are joined step by step (Tarjan and van Leeuwen 1984, with path halving). The least member stands
// for its set, so that sets are numbered by their first ones.

/** @param parent i32 a number */
export function eachAlone(parent: usize, count: u32): void {
  for (let k: u32 = 0; k < count; k++) store<u32>(parent + ((<usize>k) << 2), k);
}

function least(parent: usize, member: u32): u32 {
  let at = member;
  let up = load<u32>(parent + ((<usize>at) << 2));
  while (up !== at) {
    const above = load<u32>(parent + ((<usize>up) << 2));
    store<u32>(parent + ((<usize>at) << 2), above);
    at = above;
    up = load<u32>(parent + ((<usize>at) << 2));
  }
  return at;
}

function join(parent: usize, a: u32, b: u32): void {
  if (load<u32>(parent + ((<usize>a) << 2)) === load<u32>(parent + ((<usize>b) << 2))) return;
  const first = least(parent, a);
  const second = least(parent, b);
  if (first < second) store<u32>(parent + ((<usize>second) << 2), first);
  else store<u32>(parent + ((<usize>first) << 2), second);
}

/** Writes the number of each one's set, counted by their least members. @returns how many sets there are */
export function numberSets(parent: usize, count: u32, out: usize): u32 {
  let sets: u32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    const first = least(parent, k);
    const number = first === k ? sets++ : load<u32>(out + ((<usize>first) << 2));
    store<u32>(out + ((<usize>k) << 2), number);
  }
  return sets;
}

/**
 * Joins neighbouring triangles that no crease divides. Neighbours that face opposite ways are taken as if they agreed.
 * @param planes f32 unit normals of the triangles, xyz
 * @param least cosine of the crease
 */
export function joinSmooth(planes: usize, corners: usize, across: usize, sides: u32, cosine: f64, parent: usize): void {
  let triangle: u32 = 0;
  let k = 0;
  for (let side: u32 = 0; side < sides; side++) {
    const other = load<i32>(across + ((<usize>side) << 2));
    if (other > <i32>side) {
      const next = <u32>other / 3;
      const p = planes + <usize>triangle * 12;
      const q = planes + <usize>next * 12;
      const along =
        <f64>load<f32>(p) * <f64>load<f32>(q) +
        <f64>load<f32>(p, 4) * <f64>load<f32>(q, 4) +
        <f64>load<f32>(p, 8) * <f64>load<f32>(q, 8);
      const alike = load<u32>(corners + ((<usize>side) << 2)) === load<u32>(corners + ((<usize>other) << 2));
      if ((alike ? -along : along) >= cosine) join(parent, triangle, next);
    }
    if (++k === 3) {
      k = 0;
      triangle++;
    }
  }
}

/** Joins what lies across sides that two share: triangles, or the parts they belong to. @param parts u32 a triangle; 0 for none */
export function joinAcross(across: usize, sides: u32, parts: usize, parent: usize): void {
  let triangle: u32 = 0;
  let k = 0;
  for (let side: u32 = 0; side < sides; side++) {
    const other = load<i32>(across + ((<usize>side) << 2));
    if (other > <i32>side) {
      const next = <u32>other / 3;
      if (!parts) join(parent, triangle, next);
      else {
        const a = load<u32>(parts + ((<usize>triangle) << 2));
        const b = load<u32>(parts + ((<usize>next) << 2));
        if (a !== b) join(parent, a, b);
      }
    }
    if (++k === 3) {
      k = 0;
      triangle++;
    }
  }
}

/** Joins the places of the corners of each triangle. */
export function joinCorners(corners: usize, triangles: u32, parent: usize): void {
  for (let t: u32 = 0; t < triangles; t++) {
    const at = corners + <usize>t * 12;
    const first = load<u32>(at);
    join(parent, first, load<u32>(at, 4));
    join(parent, first, load<u32>(at, 8));
  }
}
