// A hash of whole numbers (Ettinger, Prospecting for Hash Functions, 2018).

export function hash(x: u32): u32 {
  x ^= x >> 16;
  x *= 0x21f0aaad;
  x ^= x >> 15;
  x *= 0xd35a2d97;
  x ^= x >> 15;
  return x;
}
