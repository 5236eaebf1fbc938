import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js';

/** What an EXR or HDR file holds. */
interface FloatFile {
  width: number;
  height: number;
  channels: number;
  data: Float32Array;
  /** Rows come bottom first. */
  upwards: boolean;
}

/** Whether a file is an EXR or HDR picture. */
export const isFloatFile = (bytes: Uint8Array): boolean => isExr(bytes) || isHdr(bytes);

/** Size that such a file says it has, before anything is unpacked; null where it says none. */
export const floatFileSize = (bytes: Uint8Array): Size | null => (isExr(bytes) ? exrSize(bytes) : hdrSize(bytes));

/**
 * Unpacks an EXR or HDR picture. Damaged files can keep the reader busy without an end: call it where it can be stopped, and look at
 * the size first. @returns null where it is damaged or holds no picture
 */
export function readFloatFile(bytes: Uint8Array<ArrayBuffer>): FloatFile | null {
  const exr = isExr(bytes);
  let picture: { width: number; height: number; data: Float32Array };
  try {
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
    const loader = exr ? new EXRLoader() : new HDRLoader();
    loader.setDataType(FloatType);
    picture = loader.parse(buffer) as unknown as typeof picture;
  } catch {
    return null;
  }
  const { width, height, data } = picture ?? {};
  if (!(width > 0 && height > 0) || !(data instanceof Float32Array)) return null;
  const channels = Math.round(data.length / (width * height));
  return channels < 1 ? null : { width, height, channels, data, upwards: exr };
}

interface Size {
  width: number;
  height: number;
}

const isExr = (bytes: Uint8Array): boolean =>
  bytes.length > 8 && bytes[0] === 0x76 && bytes[1] === 0x2f && bytes[2] === 0x31 && bytes[3] === 0x01;

const isHdr = (bytes: Uint8Array): boolean => bytes[0] === 0x23 && bytes[1] === 0x3f; // #?

/** Most attributes of a header that are looked through. */
const MOST_ATTRIBUTES = 1000;

/** Size of an OpenEXR picture by the data window in its first header; null where there is none. */
function exrSize(bytes: Uint8Array): Size | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 8;
  const text = (): string | null => {
    const end = bytes.indexOf(0, at);
    if (end < 0 || end - at > 255) return null;
    const found = String.fromCharCode(...bytes.subarray(at, end));
    at = end + 1;
    return found;
  };
  for (let k = 0; k < MOST_ATTRIBUTES; k++) {
    const attribute = text();
    if (!attribute) return null;
    const type = text();
    if (type === null || at + 4 > bytes.length) return null;
    const length = view.getInt32(at, true);
    at += 4;
    if (length < 0 || at + length > bytes.length) return null;
    if (attribute === 'dataWindow' && type === 'box2i' && length === 16) {
      const [left, top, right, bottom] = [0, 4, 8, 12].map((offset) => view.getInt32(at + offset, true)) as [number, number, number, number]; // prettier-ignore
      const size = { width: right - left + 1, height: bottom - top + 1 };
      return size.width > 0 && size.height > 0 ? size : null;
    }
    at += length;
  }
  return null;
}

/** Bytes of a Radiance header that are looked through. */
const MOST_HEADER = 65_536;

/** Size of a Radiance picture by the line that ends its header; null where there is none. */
function hdrSize(bytes: Uint8Array): Size | null {
  const header = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_HEADER));
  const line = /\n\s*-Y\s+(\d{1,9})\s+\+X\s+(\d{1,9})\s*\n/.exec(header);
  return line ? { height: Number(line[1]), width: Number(line[2]) } : null;
}
