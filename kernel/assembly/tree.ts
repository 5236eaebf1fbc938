// Builds wide trees top-down: binned surface area heuristic, eight children a node
// (Wald, On fast Construction of SAH-based Bounding Volume Hierarchies, 2007; Wald, Benthin and Boulos, Getting Rid of
// Packets, 2008). Costs count blocks of four triangles, because a block is intersected as one.
//
// Primitive record: 0 low x y z 0   16 high x y z 0   (the fourth lane stays a true zero: an integer there is a denormal)

import { BLOCK_SIZE, BLOCK_TRIANGLE, LEAF, LEAF_SHIFT, NODE_CHILD, NODE_SIZE } from './layout';

const PRIMITIVE: usize = 32;
const BINS: i32 = 16;
const BIN: usize = 48; // low, high, count

let primitives: usize = 0;
let numbers: usize = 0;
let bins: usize = 0;
/** Where the next node or block goes: blocks follow the node they hang on, so that a ray finds them on the same pages. */
let next: usize = 0;
let meshPositions: usize = 0;
let meshIndices: usize = 0;
let leafSize: i32 = 4;

/** Bytes of working memory a build over `count` primitives needs. */
export function treeScratchSize(count: u32): usize {
  return <usize>count * (PRIMITIVE + 4) + 3 * <usize>BINS * BIN + 2048 + 64;
}

/** An upper bound of the bytes a tree over `count` primitives takes, blocks of triangles included. */
export function treeBound(count: u32): usize {
  return (<usize>count / 2 + 64) * NODE_SIZE + <usize>count * BLOCK_SIZE;
}

function setScratch(scratch: usize, count: u32): void {
  primitives = (scratch + 15) & ~15;
  numbers = primitives + <usize>count * PRIMITIVE;
  bins = (numbers + <usize>count * 4 + 15) & ~15;
}

/** Builds a mesh's tree into `treeBound` bytes at an address that is a multiple of 32. Returns the bytes it took. */
export function buildMeshTree(positions: usize, indices: usize, triangles: u32, tree: usize, scratch: usize): usize {
  setScratch(scratch, triangles);
  meshPositions = positions;
  meshIndices = indices;
  leafSize = 4;
  for (let t: u32 = 0; t < triangles; t++) {
    const at = indices + <usize>t * 12;
    const a = vertex(positions, load<u32>(at));
    const b = vertex(positions, load<u32>(at, 4));
    const c = vertex(positions, load<u32>(at, 8));
    const p = primitives + <usize>t * PRIMITIVE;
    v128.store(p, f32x4.pmin(f32x4.pmin(a, b), c));
    v128.store(p + 16, f32x4.pmax(f32x4.pmax(a, b), c));
    store<u32>(numbers + <usize>t * 4, t);
  }
  return buildFrom(tree, triangles);
}

/** Builds the instance level over `count` boxes (low xyz, high xyz as six floats each). Returns the bytes it took. */
export function buildInstanceTree(boxes: usize, count: u32, tree: usize, scratch: usize): usize {
  setScratch(scratch, count);
  leafSize = 1;
  for (let i: u32 = 0; i < count; i++) {
    const box = boxes + <usize>i * 24;
    const p = primitives + <usize>i * PRIMITIVE;
    v128.store(p, f32x4(load<f32>(box), load<f32>(box, 4), load<f32>(box, 8), 0));
    v128.store(p + 16, f32x4(load<f32>(box, 12), load<f32>(box, 16), load<f32>(box, 20), 0));
    store<u32>(numbers + <usize>i * 4, i);
  }
  return buildFrom(tree, count);
}

function buildFrom(tree: usize, count: u32): usize {
  next = tree;
  if (count > 0) buildNode(0, <i32>count, 0);
  else emptyNode(allocateNode());
  return next - tree;
}

function vertex(positions: usize, index: u32): v128 {
  const at = positions + <usize>index * 12;
  return f32x4(load<f32>(at), load<f32>(at, 4), load<f32>(at, 8), 0);
}

function allocateNode(): usize {
  const node = next;
  next += NODE_SIZE;
  return node;
}

function emptyNode(node: usize): void {
  for (let child = 0; child < 8; child++) {
    const at = node + <usize>child * 4;
    for (let axis: usize = 0; axis < 3; axis++) {
      store<f32>(at + axis * 64, Infinity);
      store<f32>(at + axis * 64 + 32, -Infinity);
    }
    store<u32>(at + NODE_CHILD, 0);
  }
}

function halfArea(low: v128, high: v128): f32 {
  const d = f32x4.sub(high, low);
  const x = f32x4.extract_lane(d, 0);
  const y = f32x4.extract_lane(d, 1);
  const z = f32x4.extract_lane(d, 2);
  return x * y + y * z + z * x;
}

function buildNode(from: i32, to: i32, depth: i32): usize {
  const node = allocateNode();
  emptyNode(node);
  // Each level needs its ranges while its children are built: they are kept in the child slots of the node itself.
  const slots = node + NODE_CHILD;
  store<u32>(node, <u32>from);
  store<u32>(node, <u32>to, 4);
  let children = 1;
  // Split the child with the largest area until there are eight.
  while (children < 8) {
    let best = -1;
    let bestArea: f32 = -1;
    for (let c = 0; c < children; c++) {
      const at = node + <usize>c * 8;
      const a = <i32>load<u32>(at);
      const b = <i32>load<u32>(at, 4);
      if (b - a <= leafSize) continue;
      const area = rangeArea(a, b);
      if (area > bestArea) {
        bestArea = area;
        best = c;
      }
    }
    if (best < 0) break;
    const at = node + <usize>best * 8;
    const a = <i32>load<u32>(at);
    const b = <i32>load<u32>(at, 4);
    const middle = splitRange(a, b, depth);
    store<u32>(at, <u32>middle, 4);
    store<u32>(node + <usize>children * 8, <u32>middle);
    store<u32>(node + <usize>children * 8, <u32>b, 4);
    children++;
  }
  // Move the ranges out of the way of the boxes, to locals, before children are built.
  const r0 = load<u64>(node),
    r1 = load<u64>(node, 8),
    r2 = load<u64>(node, 16),
    r3 = load<u64>(node, 24);
  const r4 = load<u64>(node, 32),
    r5 = load<u64>(node, 40),
    r6 = load<u64>(node, 48),
    r7 = load<u64>(node, 56);
  emptyNode(node);
  let inner = 0; // bits of the children that are nodes
  for (let c = 0; c < children; c++) {
    const range =
      c === 0 ? r0 : c === 1 ? r1 : c === 2 ? r2 : c === 3 ? r3 : c === 4 ? r4 : c === 5 ? r5 : c === 6 ? r6 : r7;
    const a = <i32>(range & 0xffffffff);
    const b = <i32>(range >> 32);
    let low = f32x4.splat(Infinity);
    let high = f32x4.splat(-Infinity);
    for (let i = a; i < b; i++) {
      const p = primitives + <usize>i * PRIMITIVE;
      low = f32x4.pmin(low, v128.load(p));
      high = f32x4.pmax(high, v128.load(p + 16));
    }
    const at = node + <usize>c * 4;
    store<f32>(at, f32x4.extract_lane(low, 0));
    store<f32>(at + 32, f32x4.extract_lane(high, 0));
    store<f32>(at + 64, f32x4.extract_lane(low, 1));
    store<f32>(at + 96, f32x4.extract_lane(high, 1));
    store<f32>(at + 128, f32x4.extract_lane(low, 2));
    store<f32>(at + 160, f32x4.extract_lane(high, 2));
    if (b - a > leafSize) inner |= 1 << c;
    else
      store<u32>(
        slots + <usize>c * 4,
        leafSize === 1 ? (<u32>LEAF) | load<u32>(numbers + <usize>a * 4) : writeBlock(a, b),
      );
  }
  while (inner !== 0) {
    const c = ctz(inner);
    inner &= inner - 1;
    const range =
      c === 0 ? r0 : c === 1 ? r1 : c === 2 ? r2 : c === 3 ? r3 : c === 4 ? r4 : c === 5 ? r5 : c === 6 ? r6 : r7;
    store<u32>(slots + <usize>c * 4, <u32>buildNode(<i32>(range & 0xffffffff), <i32>(range >> 32), depth + 1));
  }
  return node;
}

function rangeArea(from: i32, to: i32): f32 {
  let low = f32x4.splat(Infinity);
  let high = f32x4.splat(-Infinity);
  for (let i = from; i < to; i++) {
    const p = primitives + <usize>i * PRIMITIVE;
    low = f32x4.pmin(low, v128.load(p));
    high = f32x4.pmax(high, v128.load(p + 16));
  }
  return halfArea(low, high);
}

function clearBins(): void {
  const infinity = f32x4.splat(Infinity);
  const minus = f32x4.splat(-Infinity);
  for (let b = 0; b < 3 * BINS; b++) {
    const bin = bins + <usize>b * BIN;
    v128.store(bin, infinity);
    v128.store(bin + 16, minus);
    store<u32>(bin + 32, 0);
  }
}

/** Reorders a range so that the cheaper half comes first; returns where the second begins. */
function splitRange(from: i32, to: i32, depth: i32): i32 {
  let low = f32x4.splat(Infinity);
  let high = f32x4.splat(-Infinity);
  for (let i = from; i < to; i++) {
    const p = primitives + <usize>i * PRIMITIVE;
    const centre = f32x4.add(v128.load(p), v128.load(p + 16));
    low = f32x4.pmin(low, centre);
    high = f32x4.pmax(high, centre);
  }
  const extent = f32x4.sub(high, low);
  const widest = max(max(f32x4.extract_lane(extent, 0), f32x4.extract_lane(extent, 1)), f32x4.extract_lane(extent, 2));
  if (!(widest > 0) || depth > 60) return (from + to) >> 1;
  const factor = f32x4.div(f32x4.splat(<f32>BINS * 0.9999), f32x4.max(extent, f32x4.splat(1e-30)));
  clearBins();
  for (let i = from; i < to; i++) {
    const p = primitives + <usize>i * PRIMITIVE;
    const pl = v128.load(p);
    const ph = v128.load(p + 16);
    const slot = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(pl, ph), low), factor));
    fillBin(bins + <usize>i32x4.extract_lane(slot, 0) * BIN, pl, ph);
    fillBin(bins + <usize>(BINS + i32x4.extract_lane(slot, 1)) * BIN, pl, ph);
    fillBin(bins + <usize>(2 * BINS + i32x4.extract_lane(slot, 2)) * BIN, pl, ph);
  }
  const rights = bins + <usize>(3 * BINS) * BIN; // area × blocks of everything right of each plane
  let bestCost: f32 = Infinity;
  let bestAxis = -1;
  let bestPlane = 0;
  for (let axis = 0; axis < 3; axis++) {
    const row = bins + <usize>(axis * BINS) * BIN;
    let bl = f32x4.splat(Infinity);
    let bh = f32x4.splat(-Infinity);
    let count: u32 = 0;
    for (let b = BINS - 1; b > 0; b--) {
      const bin = row + <usize>b * BIN;
      bl = f32x4.pmin(bl, v128.load(bin));
      bh = f32x4.pmax(bh, v128.load(bin + 16));
      count += load<u32>(bin + 32);
      store<f32>(rights + <usize>b * 4, count > 0 ? halfArea(bl, bh) * cost(count) : Infinity);
    }
    bl = f32x4.splat(Infinity);
    bh = f32x4.splat(-Infinity);
    count = 0;
    for (let b = 1; b < BINS; b++) {
      const bin = row + <usize>(b - 1) * BIN;
      bl = f32x4.pmin(bl, v128.load(bin));
      bh = f32x4.pmax(bh, v128.load(bin + 16));
      count += load<u32>(bin + 32);
      if (count === 0) continue;
      const total = halfArea(bl, bh) * cost(count) + load<f32>(rights + <usize>b * 4);
      if (total < bestCost) {
        bestCost = total;
        bestAxis = axis;
        bestPlane = b;
      }
    }
  }
  if (bestAxis < 0) return (from + to) >> 1;
  const lowAxis = lane(low, bestAxis);
  const factorAxis = lane(factor, bestAxis);
  let left = from;
  let right = to - 1;
  while (left <= right) {
    const p = primitives + <usize>left * PRIMITIVE;
    const at = <usize>bestAxis * 4;
    const bin = <i32>((load<f32>(p + at) + load<f32>(p + at + 16) - lowAxis) * factorAxis);
    if (bin < bestPlane) left++;
    else swapPrimitives(left, right--);
  }
  return left === from || left === to ? (from + to) >> 1 : left;
}

function lane(v: v128, axis: i32): f32 {
  return axis === 0 ? f32x4.extract_lane(v, 0) : axis === 1 ? f32x4.extract_lane(v, 1) : f32x4.extract_lane(v, 2);
}

function cost(count: u32): f32 {
  return leafSize === 1 ? <f32>count : <f32>((count + 3) >> 2);
}

function fillBin(bin: usize, low: v128, high: v128): void {
  v128.store(bin, f32x4.pmin(v128.load(bin), low));
  v128.store(bin + 16, f32x4.pmax(v128.load(bin + 16), high));
  store<u32>(bin + 32, load<u32>(bin + 32) + 1);
}

function swapPrimitives(a: i32, b: i32): void {
  const pa = primitives + <usize>a * PRIMITIVE;
  const pb = primitives + <usize>b * PRIMITIVE;
  const l = v128.load(pa);
  const h = v128.load(pa + 16);
  v128.store(pa, v128.load(pb));
  v128.store(pa + 16, v128.load(pb + 16));
  v128.store(pb, l);
  v128.store(pb + 16, h);
  const na = numbers + <usize>a * 4;
  const nb = numbers + <usize>b * 4;
  const n = load<u32>(na);
  store<u32>(na, load<u32>(nb));
  store<u32>(nb, n);
}

/** Writes up to four triangles as one block and returns the leaf's child word. Missing ones are points, which no ray hits. */
function writeBlock(from: i32, to: i32): u32 {
  const block = next;
  next += BLOCK_SIZE;
  memory.fill(block, 0, BLOCK_SIZE);
  for (let k = 0; k < to - from; k++) {
    const triangle = load<u32>(numbers + <usize>(from + k) * 4);
    const at = block + <usize>k * 4;
    for (let corner: usize = 0; corner < 3; corner++) {
      const v = meshPositions + <usize>load<u32>(meshIndices + <usize>triangle * 12 + corner * 4) * 12;
      store<f32>(at + corner * 48, load<f32>(v));
      store<f32>(at + corner * 48 + 16, load<f32>(v, 4));
      store<f32>(at + corner * 48 + 32, load<f32>(v, 8));
    }
    store<u32>(at + BLOCK_TRIANGLE, triangle);
  }
  return (<u32>LEAF) | (<u32>(block >> LEAF_SHIFT));
}
