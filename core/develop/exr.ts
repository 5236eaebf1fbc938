import { unzlibSync, zlibSync } from 'fflate';
import { UserProblem } from '../document';
import { fromHalf, toHalf } from './half';

/** One channel of an OpenEXR picture. Names with dots are layers: `normal.X`. */
export interface ExrChannel {
  name: string;
  type: 'half' | 'float' | 'uint';
  /** Width × height values, top row first. */
  data: Float32Array | Uint32Array;
}

export interface ExrPicture {
  width: number;
  height: number;
  channels: ExrChannel[];
}

/** What stands in front of the pixels. */
export interface ExrHeader {
  width: number;
  height: number;
  channels: readonly Pick<ExrChannel, 'name' | 'type'>[];
  /** Attributes of one string each. */
  text: Record<string, string>;
}

const MAGIC = 20000630;
const TYPES = ['uint', 'half', 'float'] as const;
const BYTES = { uint: 4, half: 2, float: 4 } as const;
const LINES = 16;
/** Flag of the version field: names longer than 31 bytes. */
const LONG_NAMES = 0x400;

/** How bytes are packed; the server passes Node's own zlib, which is several times as fast. */
export interface Deflate {
  pack(bytes: Uint8Array): Uint8Array;
  unpack(bytes: Uint8Array): Uint8Array;
}

const portable: Deflate = { pack: (bytes) => zlibSync(bytes, { level: 3 }), unpack: (bytes) => unzlibSync(bytes) };

/**
 * Writes scan lines with ZIP compression, blocks of 16 lines (The OpenEXR Project, OpenEXR File Layout).
 * `text` adds string attributes.
 */
export function writeExr(
  picture: ExrPicture,
  text: Record<string, string> = {},
  deflate = portable,
): Uint8Array<ArrayBuffer> {
  const { width, height } = picture;
  const channels = [...picture.channels].sort((a, b) => (a.name < b.name ? -1 : 1));
  const header = writeHeader(width, height, channels, text);
  const blocks: Uint8Array[] = [];
  const rowBytes = channels.reduce((sum, { type }) => sum + BYTES[type] * width, 0);
  for (let y = 0; y < height; y += LINES) {
    const rows = Math.min(LINES, height - y);
    const raw = new Uint8Array(rowBytes * rows);
    const view = new DataView(raw.buffer);
    let at = 0;
    for (let row = y; row < y + rows; row++) {
      for (const { type, data } of channels) {
        for (let x = 0; x < width; x++) {
          const value = data[row * width + x]!;
          if (type === 'half') view.setUint16(at, toHalf(value), true);
          else if (type === 'float') view.setFloat32(at, value, true);
          else view.setUint32(at, value, true);
          at += BYTES[type];
        }
      }
    }
    const packed = deflate.pack(predict(raw));
    blocks.push(packed.length < raw.length ? packed : raw);
  }
  const table = header.length + blocks.length * 8;
  const out = new Uint8Array(table + blocks.reduce((sum, block) => sum + block.length + 8, 0));
  const view = new DataView(out.buffer);
  out.set(header);
  let at = table;
  blocks.forEach((block, k) => {
    view.setBigUint64(header.length + k * 8, BigInt(at), true);
    view.setInt32(at, k * LINES, true);
    view.setInt32(at + 4, block.length, true);
    out.set(block, at + 8);
    at += 8 + block.length;
  });
  return out;
}

function writeHeader(width: number, height: number, channels: ExrChannel[], text: Record<string, string>): Uint8Array {
  const bytes: number[] = [];
  const int = (value: number) => bytes.push(value & 255, (value >> 8) & 255, (value >> 16) & 255, (value >>> 24) & 255);
  const string = (value: string) => bytes.push(...new TextEncoder().encode(value), 0);
  const floats = (...values: number[]) => bytes.push(...new Uint8Array(new Float32Array(values).buffer));
  const attribute = (name: string, type: string, write: () => void) => {
    string(name);
    string(type);
    const size = bytes.length;
    int(0);
    write();
    const length = bytes.length - size - 4;
    for (let k = 0; k < 4; k++) bytes[size + k] = (length >> (8 * k)) & 255;
  };
  int(MAGIC);
  const long = [...channels.map(({ name }) => name), ...Object.keys(text)].some(
    (name) => new TextEncoder().encode(name).length > 31,
  );
  int(long ? 2 | LONG_NAMES : 2);
  attribute('channels', 'chlist', () => {
    for (const { name, type } of channels) {
      string(name);
      int(TYPES.indexOf(type));
      int(0);
      int(1);
      int(1);
    }
    bytes.push(0);
  });
  const window = () => [0, 0, width - 1, height - 1].forEach(int);
  attribute('compression', 'compression', () => bytes.push(3));
  attribute('dataWindow', 'box2i', window);
  attribute('displayWindow', 'box2i', window);
  attribute('lineOrder', 'lineOrder', () => bytes.push(0));
  attribute('pixelAspectRatio', 'float', () => floats(1));
  attribute('screenWindowCenter', 'v2f', () => floats(0, 0));
  attribute('screenWindowWidth', 'float', () => floats(1));
  for (const [name, value] of Object.entries(text)) {
    attribute(name, 'string', () => bytes.push(...new TextEncoder().encode(value)));
  }
  bytes.push(0);
  return new Uint8Array(bytes);
}

/** ZIP works on differences of neighbouring bytes, low and high halves of the bytes apart. */
function predict(raw: Uint8Array): Uint8Array {
  const out = new Uint8Array(raw.length);
  const half = (raw.length + 1) >> 1;
  for (let k = 0; k < raw.length; k++) out[(k >> 1) + (k & 1 ? half : 0)] = raw[k]!;
  for (let k = out.length - 1; k > 0; k--) out[k] = (out[k]! - out[k - 1]! + 384) & 255;
  return out;
}

function unpredict(packed: Uint8Array): Uint8Array {
  let value = packed[0] ?? 0;
  for (let k = 1; k < packed.length; k++) packed[k] = value = (value + packed[k]! + 128) & 255;
  const out = new Uint8Array(packed.length);
  const half = (packed.length + 1) >> 1;
  for (let k = 0; k < half; k++) out[2 * k] = packed[k]!;
  for (let k = half; k < packed.length; k++) out[2 * (k - half) + 1] = packed[k]!;
  return out;
}

const broken = () =>
  new UserProblem(
    'exr-broken',
    'The EXR picture is damaged or uses a form that cannot be read here. Save it again as scan lines with ZIP compression.',
    422,
  );

/**
 * Reads what `writeExr` writes: one part, scan lines, ZIP or uncompressed, no subsampling.
 * @throws UserProblem `exr-broken`
 */
export function readExr(
  bytes: Uint8Array,
  deflate = portable,
  wanted: (channel: string) => boolean = () => true,
): ExrPicture {
  try {
    return readScanLines(bytes, deflate, wanted);
  } catch (error) {
    throw error instanceof UserProblem ? error : broken();
  }
}

/**
 * What the header of a file says, without its pixels.
 * @throws UserProblem `exr-broken`
 */
export function readExrHeader(bytes: Uint8Array): ExrHeader {
  try {
    const { width, height, channels, text } = readHeader(bytes);
    return { width, height, channels, text };
  } catch (error) {
    throw error instanceof UserProblem ? error : broken();
  }
}

function readHeader(bytes: Uint8Array): ExrHeader & { at: number; lines: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getInt32(0, true) !== MAGIC || (view.getInt32(4, true) & ~(0xff | LONG_NAMES)) !== 0) throw broken();
  let at = 8;
  const string = () => {
    const end = bytes.indexOf(0, at);
    if (end < 0) throw broken();
    const value = new TextDecoder().decode(bytes.subarray(at, end));
    at = end + 1;
    return value;
  };
  let compression = -1;
  let [width, height] = [0, 0];
  const channels: { name: string; type: (typeof TYPES)[number] }[] = [];
  const text: Record<string, string> = {};
  while (bytes[at] !== 0) {
    const name = string();
    const type = string();
    const size = view.getInt32(at, true);
    at += 4;
    const end = at + size;
    if (size < 0 || end > bytes.length) throw broken();
    if (name === 'compression') compression = bytes[at]!;
    if (name === 'dataWindow') {
      width = view.getInt32(at + 8, true) - view.getInt32(at, true) + 1;
      height = view.getInt32(at + 12, true) - view.getInt32(at + 4, true) + 1;
    }
    if (name === 'channels') {
      while (bytes[at] !== 0) {
        const channel = string();
        const kind = TYPES[view.getInt32(at, true)];
        if (!kind || view.getInt32(at + 8, true) !== 1 || view.getInt32(at + 12, true) !== 1) throw broken();
        channels.push({ name: channel, type: kind });
        at += 16;
      }
    }
    if (type === 'string') text[name] = new TextDecoder().decode(bytes.subarray(at, end));
    at = end;
  }
  const lines = { 0: 1, 2: 1, 3: LINES }[compression];
  if (!lines || !(width > 0 && height > 0 && width * height <= 2 ** 28) || channels.length === 0) throw broken();
  return { width, height, channels, text, at: at + 1, lines };
}

function readScanLines(bytes: Uint8Array, deflate: Deflate, wanted: (channel: string) => boolean): ExrPicture {
  const { width, height, channels: found, at, lines } = readHeader(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const channels = found.map(({ name, type }): ExrChannel => {
    const size = wanted(name) ? width * height : 0;
    return { name, type, data: type === 'uint' ? new Uint32Array(size) : new Float32Array(size) };
  });
  const rowBytes = found.reduce((sum, { type }) => sum + BYTES[type] * width, 0);
  const blocks = Math.ceil(height / lines);
  for (let k = 0; k < blocks; k++) {
    const block = Number(view.getBigUint64(at + k * 8, true));
    const rows = Math.min(lines, height - k * lines);
    const size = view.getInt32(block + 4, true);
    const stored = bytes.subarray(block + 8, block + 8 + size);
    const raw = size < rowBytes * rows ? unpredict(new Uint8Array(deflate.unpack(stored))) : stored;
    if (raw.length !== rowBytes * rows) throw broken();
    readRows(raw, channels, k * lines, rows, width);
  }
  return { width, height, channels: channels.filter(({ data }) => data.length > 0) };
}

/** Bytes from the start of a file in which its header is looked for, at first and at most. */
const HEADER = { first: 65_536, most: 64_000_000 };

/**
 * Where a file that `writeExr` wrote ends by what its header and its table of blocks say, without unpacking it: a file that was cut is
 * shorter than that.
 * @param read so many bytes of the file from a place on, fewer where it ends before
 * @returns null where the file says nothing of that kind
 */
export async function exrEnd(read: (from: number, length: number) => Promise<Uint8Array>): Promise<number | null> {
  for (let length = HEADER.first; length <= HEADER.most; length *= 8) {
    const bytes = await read(0, length);
    const table = tableOf(bytes);
    if (table) {
      const entry = await read(table.at + (table.blocks - 1) * 8, 8);
      if (entry.length < 8) return null;
      const last = Number(new DataView(entry.buffer, entry.byteOffset).getBigUint64(0, true));
      const block = await read(last, 8);
      return block.length < 8 ? null : last + 8 + new DataView(block.buffer, block.byteOffset).getInt32(4, true);
    }
    if (bytes.length < length) return null;
  }
  return null;
}

/** Where the table of blocks begins and how many it lists; null where the header does not end within the bytes. */
function tableOf(bytes: Uint8Array): { at: number; blocks: number } | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 16 || view.getInt32(0, true) !== MAGIC) return null;
  let at = 8;
  let height = 0;
  while (at < bytes.length && bytes[at] !== 0) {
    const named = bytes.indexOf(0, at);
    const typed = bytes.indexOf(0, named + 1);
    if (named < 0 || typed < 0 || typed + 21 > bytes.length) return null;
    const size = view.getInt32(typed + 1, true);
    const value = typed + 5;
    if (size < 0) return null;
    if (new TextDecoder().decode(bytes.subarray(at, named)) === 'dataWindow')
      height = view.getInt32(value + 12, true) - view.getInt32(value + 4, true) + 1;
    at = value + size;
  }
  return at < bytes.length && height > 0 ? { at: at + 1, blocks: Math.ceil(height / LINES) } : null;
}

function readRows(raw: Uint8Array, channels: ExrChannel[], first: number, rows: number, width: number): void {
  const view = new DataView(raw.buffer, raw.byteOffset, raw.byteLength);
  let at = 0;
  for (let row = first; row < first + rows; row++) {
    for (const { type, data } of channels) {
      const from = row * width;
      if (data.length === 0) {
        at += width * BYTES[type];
        continue;
      }
      if (type === 'half') for (let x = 0; x < width; x++) data[from + x] = fromHalf(view.getUint16(at + x * 2, true));
      else if (type === 'float') for (let x = 0; x < width; x++) data[from + x] = view.getFloat32(at + x * 4, true);
      else for (let x = 0; x < width; x++) data[from + x] = view.getUint32(at + x * 4, true);
      at += width * BYTES[type];
    }
  }
}
