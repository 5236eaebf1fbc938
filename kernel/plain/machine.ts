// What WebAssembly does for the kernel, as plain functions: memory, numbers of a fixed width, and four lanes at once. Names are those
// that `translate` writes into the kernel's sources. Its memory is that of whichever kernel it runs beside.

let buffer: ArrayBufferLike = new ArrayBuffer(0);
let view = new DataView(buffer);
let source: WebAssembly.Memory | null = null;

/** Lets the kernel as plain code work in a memory. */
export function useMemory(memory: WebAssembly.Memory): void {
  source = memory;
  refresh();
}

/** A memory that has grown has a new buffer. */
function refresh(): DataView {
  if (source && buffer !== source.buffer) {
    buffer = source.buffer;
    view = new DataView(buffer);
  }
  return view;
}

type Read = (at: number, offset?: number) => number;
const reader =
  (read: (from: DataView, at: number) => number): Read =>
  (at, offset = 0) =>
    read(refresh(), at + offset);
const writer =
  (write: (to: DataView, at: number, value: number) => void) =>
  (at: number, value: number | boolean, offset = 0): void =>
    write(refresh(), at + offset, Number(value));

export const load_f32 = reader((from, at) => from.getFloat32(at, true));
export const load_f64 = reader((from, at) => from.getFloat64(at, true));
export const load_i32 = reader((from, at) => from.getInt32(at, true));
export const load_u32 = reader((from, at) => from.getUint32(at, true));
export const load_u8 = reader((from, at) => from.getUint8(at));
export const load_u16 = reader((from, at) => from.getUint16(at, true));
export const store_f32 = writer((to, at, value) => to.setFloat32(at, value, true));
export const store_f64 = writer((to, at, value) => to.setFloat64(at, value, true));
export const store_i32 = writer((to, at, value) => to.setInt32(at, value, true));
export const store_u32 = writer((to, at, value) => to.setUint32(at, value, true));
export const store_u8 = writer((to, at, value) => to.setUint8(at, value));
export const store_u16 = writer((to, at, value) => to.setUint16(at, value, true));

/** Eight bytes that are only moved. */
export const load_u64 = (at: number, offset = 0): bigint => refresh().getBigUint64(at + offset, true);
export const store_u64 = (at: number, value: bigint, offset = 0): void =>
  refresh().setBigUint64(at + offset, value, true);

export const fround = Math.fround;
export const imul = Math.imul;
/** Product of two numbers without a sign. */
export const umul = (a: number, b: number): number => Math.imul(a, b) >>> 0;

const word = new DataView(new ArrayBuffer(4));
export function bits_f32(value: number): number {
  word.setFloat32(0, value);
  return word.getUint32(0);
}
export function f32_bits(value: number): number {
  word.setUint32(0, value);
  return word.getFloat32(0);
}

export const ctz = (value: number): number => (value === 0 ? 32 : 31 - Math.clz32(value & -value));

/** Nearest whole number, the even one of two. */
export function nearest(value: number): number {
  const low = Math.floor(value);
  const part = value - low;
  if (part !== 0.5) return part < 0.5 ? low : low + 1;
  return low % 2 === 0 ? low : low + 1;
}

export function unreachable(): never {
  throw new WebAssembly.RuntimeError('unreachable');
}

export const memory = {
  copy(to: number, from: number, size: number): void {
    refresh();
    new Uint8Array(buffer).copyWithin(to, from, from + size);
  },
  fill(at: number, value: number, size: number): void {
    refresh();
    new Uint8Array(buffer).fill(value, at, at + size);
  },
};

/** Single precision, as the kernel's own functions round. */
export const Mathf = {
  cos: (x: number): number => fround(Math.cos(x)),
  exp: (x: number): number => fround(Math.exp(x)),
  log: (x: number): number => fround(Math.log(x)),
  pow: (x: number, y: number): number => fround(Math.pow(x, y)),
  sin: (x: number): number => fround(Math.sin(x)),
  tan: (x: number): number => fround(Math.tan(x)),
};

// ------------------------------------------------------------------------------------------------------------- four lanes at once

/** Sixteen bytes, seen as whole numbers or as floats. */
class Lanes {
  readonly words = new Uint32Array(4);
  readonly floats = new Float32Array(this.words.buffer);
  readonly bytes = new Uint8Array(this.words.buffer);
}

function words(of: (lane: number) => number): Lanes {
  const lanes = new Lanes();
  for (let k = 0; k < 4; k++) lanes.words[k] = of(k);
  return lanes;
}

function floats(of: (lane: number) => number): Lanes {
  const lanes = new Lanes();
  for (let k = 0; k < 4; k++) lanes.floats[k] = of(k);
  return lanes;
}

const eachFloat =
  (operation: (a: number, b: number) => number) =>
  (a: Lanes, b: Lanes): Lanes =>
    floats((k) => operation(a.floats[k]!, b.floats[k]!));
const eachTest =
  (test: (a: number, b: number) => boolean) =>
  (a: Lanes, b: Lanes): Lanes =>
    words((k) => (test(a.floats[k]!, b.floats[k]!) ? 0xffffffff : 0));
const eachWord =
  (operation: (a: number, b: number) => number) =>
  (a: Lanes, b: Lanes): Lanes =>
    words((k) => operation(a.words[k]!, b.words[k]!));

export const v128 = {
  load(at: number, offset = 0): Lanes {
    const from = refresh();
    return words((k) => from.getUint32(at + offset + 4 * k, true));
  },
  store(at: number, value: Lanes, offset = 0): void {
    const to = refresh();
    value.words.forEach((each, k) => to.setUint32(at + offset + 4 * k, each, true));
  },
  and: eachWord((a, b) => a & b),
  or: eachWord((a, b) => a | b),
  xor: eachWord((a, b) => a ^ b),
  bitselect: (a: Lanes, b: Lanes, mask: Lanes): Lanes =>
    words((k) => (a.words[k]! & mask.words[k]!) | (b.words[k]! & ~mask.words[k]!)),
  any_true: (a: Lanes): boolean => a.words.some((each) => each !== 0),
};

export const i32x4 = Object.assign(
  (a: number, b: number, c: number, d: number): Lanes => words((k) => [a, b, c, d][k]!),
  {
    splat: (value: number): Lanes => words(() => value),
    add: eachWord((a, b) => a + b),
    mul: eachWord(Math.imul),
    shr_u: (a: Lanes, by: number): Lanes => words((k) => a.words[k]! >>> by),
    extract_lane: (a: Lanes, lane: number): number => a.words[lane]! | 0,
    bitmask: (a: Lanes): number => a.words.reduce((bits, each, k) => bits | ((each >>> 31) << k), 0),
    trunc_sat_f32x4_s: (a: Lanes): Lanes =>
      words((k) => Math.max(-0x80000000, Math.min(0x7fffffff, Math.trunc(a.floats[k]! || 0)))),
  },
);

export const i8x16 = {
  splat(value: number): Lanes {
    const lanes = new Lanes();
    lanes.bytes.fill(value);
    return lanes;
  },
  swizzle(a: Lanes, places: Lanes): Lanes {
    const lanes = new Lanes();
    places.bytes.forEach((place, k) => (lanes.bytes[k] = a.bytes[place] ?? 0));
    return lanes;
  },
  shuffle(a: Lanes, b: Lanes, ...places: number[]): Lanes {
    const lanes = new Lanes();
    places.forEach((place, k) => (lanes.bytes[k] = place < 16 ? a.bytes[place]! : b.bytes[place - 16]!));
    return lanes;
  },
};

export const f32x4 = Object.assign(
  (a: number, b: number, c: number, d: number): Lanes => floats((k) => [a, b, c, d][k]!),
  {
    splat: (value: number): Lanes => floats(() => value),
    extract_lane: (a: Lanes, lane: number): number => a.floats[lane]!,
    add: eachFloat((a, b) => a + b),
    sub: eachFloat((a, b) => a - b),
    mul: eachFloat((a, b) => a * b),
    div: eachFloat((a, b) => a / b),
    max: eachFloat(Math.max),
    // The first where the second does not beat it, numbers that are none included.
    pmin: eachFloat((a, b) => (b < a ? b : a)),
    pmax: eachFloat((a, b) => (a < b ? b : a)),
    eq: eachTest((a, b) => a === b),
    lt: eachTest((a, b) => a < b),
    le: eachTest((a, b) => a <= b),
    gt: eachTest((a, b) => a > b),
    ge: eachTest((a, b) => a >= b),
    abs: (a: Lanes): Lanes => floats((k) => Math.abs(a.floats[k]!)),
    sqrt: (a: Lanes): Lanes => floats((k) => Math.sqrt(a.floats[k]!)),
    convert_i32x4_s: (a: Lanes): Lanes => floats((k) => a.words[k]! | 0),
  },
);
