/** Tag of an ICC profile (ICC.1:2022, embedding in TIFF). */
const PROFILE = 34_675;
const ENTRY = 12;

/**
 * A TIFF with an ICC profile, its pixels untouched: its directory is written anew behind all that was there (TIFF 6.0,
 * 1992, image file directory).
 * @param tiff little-endian, of one picture, without a profile
 */
export function tagTiff(tiff: Uint8Array, profile: Uint8Array): Uint8Array<ArrayBuffer> {
  const from = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const directory = from.getUint32(4, true);
  const count = from.getUint16(directory, true);
  const entries = Array.from({ length: count }, (_, k) => tiff.subarray(directory + 2 + k * ENTRY, directory + 2 + (k + 1) * ENTRY)); // prettier-ignore
  const own = new Uint8Array(ENTRY);
  const view = new DataView(own.buffer);
  // What is placed lies at even addresses.
  const placed = tiff.length + (tiff.length & 1);
  view.setUint16(0, PROFILE, true);
  view.setUint16(2, 7, true);
  view.setUint32(4, profile.length, true);
  view.setUint32(8, placed, true);
  const tagOf = (entry: Uint8Array) => entry[0]! + entry[1]! * 256;
  const sorted = [...entries.filter((entry) => tagOf(entry) !== PROFILE), own].sort((a, b) => tagOf(a) - tagOf(b));
  const start = placed + profile.length + (profile.length & 1);
  const out = new Uint8Array(start + 2 + sorted.length * ENTRY + 4);
  out.set(tiff);
  out.set(profile, placed);
  const to = new DataView(out.buffer);
  to.setUint32(4, start, true);
  to.setUint16(start, sorted.length, true);
  sorted.forEach((entry, k) => out.set(entry, start + 2 + k * ENTRY));
  return out;
}
