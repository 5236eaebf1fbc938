/** Names are hashed once: every frame asks for the same ones. */
const ids = new Map<string, number>();
const MOST_KNOWN = 50_000;

/**
 * Cryptomatte's id of a name: MurmurHash3 with seed 0, its exponent changed where the bits would be no ordinary float (Friedman
 * and Jones, Fully automatic ID mattes with support for motion blur and transparency, 2015).
 */
export function matteId(name: string): number {
  const known = ids.get(name);
  if (known !== undefined) return known;
  if (ids.size > MOST_KNOWN) ids.clear();
  const id = hashOf(name);
  ids.set(name, id);
  return id;
}

function hashOf(name: string): number {
  const bytes = new TextEncoder().encode(name);
  let hash = 0;
  const mix = (k: number) => {
    const a = Math.imul(k, 0xcc9e2d51);
    return Math.imul((a << 15) | (a >>> 17), 0x1b873593);
  };
  const whole = bytes.length & ~3;
  for (let at = 0; at < whole; at += 4) {
    hash ^= mix(bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bytes[at + 3]! << 24));
    hash = (Math.imul((hash << 13) | (hash >>> 19), 5) + 0xe6546b64) | 0;
  }
  let tail = 0;
  for (let at = bytes.length - 1; at >= whole; at--) tail = (tail << 8) | bytes[at]!;
  if (bytes.length > whole) hash ^= mix(tail);
  hash ^= bytes.length;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  hash = (hash ^ (hash >>> 16)) >>> 0;
  const exponent = (hash >>> 23) & 255;
  return exponent === 0 || exponent === 255 ? (hash ^ (1 << 23)) >>> 0 : hash;
}
