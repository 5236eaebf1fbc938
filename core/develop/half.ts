const float = new Float32Array(1);
const bits = new Uint32Array(float.buffer);

/** Bits of the nearest half-precision number (IEEE 754 binary16); too large becomes the largest half, not infinity. */
export function toHalf(value: number): number {
  float[0] = value;
  const x = bits[0]!;
  const sign = (x >>> 16) & 0x8000;
  const rest = x & 0x7fffffff;
  if (rest > 0x7f800000) return sign | 0x7e00;
  if (rest >= 0x477ff000) return sign | 0x7bff;
  if (rest < 0x38800000) {
    if (rest < 0x33000000) return sign;
    const exponent = rest >>> 23;
    const mantissa = (rest & 0x7fffff) | 0x800000;
    const shift = 126 - exponent;
    return sign | ((mantissa + (1 << (shift - 1))) >>> shift);
  }
  return sign | ((rest - 0x38000000 + 0xfff + ((rest >>> 13) & 1)) >>> 13);
}

/** All 65,536 half-precision numbers by their bits. */
const numbers = Float32Array.from({ length: 65536 }, (_, half) => numberOf(half));

/** The number whose half-precision bits are given. */
export const fromHalf = (half: number): number => numbers[half]!;

function numberOf(half: number): number {
  const sign = half & 0x8000 ? -1 : 1;
  const exponent = (half >>> 10) & 31;
  const mantissa = half & 0x3ff;
  if (exponent === 0) return sign * mantissa * 2 ** -24;
  if (exponent === 31) return mantissa ? NaN : sign * Infinity;
  return sign * (1 + mantissa / 1024) * 2 ** (exponent - 15);
}
