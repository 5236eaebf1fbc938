import { describe, expect, it } from 'vitest';
import { withoutByteOrderMark } from './byteOrder';

const TEXT = 'o Körper\nv 0 0 0\n';
const utf8 = new TextEncoder().encode(TEXT);
const utf16 = (little: boolean) => {
  const bytes = new Uint8Array(2 + TEXT.length * 2);
  const view = new DataView(bytes.buffer);
  [...`\ufeff${TEXT}`].forEach((each, k) => view.setUint16(k * 2, each.charCodeAt(0), little));
  return bytes;
};

describe('a text that begins with a byte order mark', () => {
  it('comes as UTF-8 without it, however it is coded', () => {
    for (const bytes of [Uint8Array.from([0xef, 0xbb, 0xbf, ...utf8]), utf16(true), utf16(false)])
      expect(new TextDecoder().decode(withoutByteOrderMark(bytes))).toBe(TEXT);
  });

  it('is told from bytes that only begin alike, and from a text without one', () => {
    const binary = Uint8Array.from({ length: 200 }, (_, k) => (k < 2 ? 0xff - k : 37 * k));
    for (const bytes of [binary, utf8, new Uint8Array(), Uint8Array.of(0xff)])
      expect(withoutByteOrderMark(bytes)).toBe(bytes);
  });
});
