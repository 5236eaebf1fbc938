/** Marks at the beginning of a text that say how its characters are coded, and the label of that coding. */
const MARKS: [number[], string][] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0xfe, 0xff], 'utf-16be'],
];

/** The bytes of a file whose text begins with a byte order mark as UTF-8 without it; those of any other file as they are. */
export function withoutByteOrderMark(bytes: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer> {
  const [mark, label] = MARKS.find(([mark]) => mark.every((byte, k) => bytes[k] === byte)) ?? [];
  if (!mark || !label) return bytes;
  if (label === 'utf-8') return bytes.subarray(mark.length);
  // What merely begins like one is no text: characters of our alphabet have a zero in every other byte.
  const head = bytes.subarray(mark.length, 66);
  const zeros = head.filter((byte, k) => byte === 0 && k % 2 === (label === 'utf-16le' ? 1 : 0)).length;
  if (zeros * 4 < head.length) return bytes;
  return new TextEncoder().encode(new TextDecoder(label).decode(bytes));
}
