import { inMeshKernel, type MeshKernel } from '@zippy/kernel/mesh';

/** The lists of an OBJ file and what its faces make of them. Numbers of corners count from 0; below 0 they name nothing. */
export interface ObjLists {
  /** xyz triples. */
  positions: Float32Array;
  normals: Float32Array;
  /** Two coordinates each, v upwards. */
  uvs: Float32Array;
  /** What has faces, by object and material, in the order in which they begin. */
  groups: ObjGroup[];
}

export interface ObjGroup {
  /** Which object of the file this is of. */
  object: number;
  name: string;
  material: string;
  corners: Int32Array;
  /** Null where no corner names any. */
  uvCorners: Int32Array | null;
  normalCorners: Int32Array | null;
  /** Corners of each face; null where all have three. */
  polygons: Uint32Array | null;
}

const [TAB, LINE_FEED, RETURN, SPACE, PLUS, MINUS, POINT, SLASH, ZERO, NINE, BACKSLASH] = [
  9, 10, 13, 32, 43, 45, 46, 47, 48, 57, 92,
] as const;
const [LOWER_F, LOWER_G, LOWER_N, LOWER_O, LOWER_T, LOWER_U, LOWER_V] = [102, 103, 110, 111, 116, 117, 118] as const;

/**
 * Reads the statements of an OBJ file that say what its surfaces are: v, vt, vn, f, o, g and usemtl; others are passed over.
 * It reads bytes, not strings, so that a file may be larger than a string can be and is read at the pace of its bytes.
 */
export function scanObj(bytes: Uint8Array): ObjLists {
  return inMeshKernel((kernel) => {
    // Reads that stay within an array are several times faster than those that may not, so the last lines get ends behind them.
    const scanner = new ObjScanner(kernel);
    const begin = lastLines(bytes);
    scanner.scan(bytes, begin);
    const last = new Uint8Array(bytes.length - begin + AHEAD).fill(LINE_FEED);
    last.set(bytes.subarray(begin));
    scanner.scan(last, bytes.length - begin);
    return scanner.lists();
  });
}

/** Bytes that are looked at ahead of the one that is read, at most. */
const AHEAD = 4;

/** Where a line begins that has no more than a few others behind it, and is no part of the one before. */
function lastLines(bytes: Uint8Array): number {
  for (let at = bytes.length - AHEAD; at > 2; at--) {
    if (bytes[at - 1] !== LINE_FEED) continue;
    const before = bytes[at - 2] === RETURN ? bytes[at - 3] : bytes[at - 2];
    if (before !== BACKSLASH) return at;
  }
  return 0;
}

/** A list of whole numbers, or of numbers by their bits, that grows: lists of one kind of array are the fastest to fill. */
class Growing {
  length = 0;
  private array: Int32Array<ArrayBuffer>;

  constructor(room: number) {
    this.array = new Int32Array(room);
  }

  push(value: number): void {
    if (this.length === this.array.length) this.grow(this.length + 1);
    this.array[this.length++] = value;
  }

  append(values: Int32Array): void {
    if (this.length + values.length > this.array.length) this.grow(this.length + values.length);
    this.array.set(values, this.length);
    this.length += values.length;
  }

  /** Appends every so many of some values, from one of them on. */
  appendEach(values: Int32Array, first: number, step: number): void {
    const count = values.length / step;
    if (this.length + count > this.array.length) this.grow(this.length + count);
    for (let k = 0; k < count; k++) this.array[this.length + k] = values[k * step + first]!;
    this.length += count;
  }

  /** Adds a number, rounded to single precision. */
  pushFloat(value: number): void {
    ROUNDED[0] = value;
    this.push(BITS[0]!);
  }

  /** Says of all up to a length that they name nothing. */
  fillTo(length: number): void {
    while (this.length < length) this.push(-1);
  }

  integers(): Int32Array<ArrayBuffer> {
    return this.array.subarray(0, this.length);
  }

  floats(): Float32Array<ArrayBuffer> {
    return new Float32Array(this.array.buffer, 0, this.length);
  }

  private grow(least: number): void {
    const longer = new Int32Array(Math.max(64, this.length * 2, least));
    longer.set(this.array);
    this.array = longer;
  }
}

const ROUNDED = new Float32Array(1);
const BITS = new Int32Array(ROUNDED.buffer);

/** A group while it grows. */
interface Draft {
  object: number;
  name: string;
  material: string;
  corners: Growing;
  uvCorners: Growing;
  normalCorners: Growing;
  /** Stays empty until the first face with more than three corners. */
  sizes: Growing;
}

class ObjScanner {
  private at = 0;
  private readonly positions = new Growing(64);
  private readonly normals = new Growing(64);
  private readonly uvs = new Growing(64);
  private readonly drafts = new Map<string, Draft>();
  private object = 0;
  private name = '';
  private material = '';
  /** The present object has faces. */
  private filled = false;
  private draft: Draft | null = null;

  private bytes: Uint8Array = new Uint8Array();
  /** Which part of the bytes stands in the kernel's memory, and where; and where it writes numbers. */
  private readonly window = { begin: 0, end: 0, at: 0, out: 0 };

  constructor(private readonly kernel: MeshKernel) {
    this.window.at = kernel.room(WINDOW + BEHIND + 8);
    // A number takes two bytes of a text and four of the memory.
    this.window.out = kernel.room(WINDOW * 2 + BEHIND * 2);
  }

  /**
   * Reads the lines that begin before some place.
   * @param bytes has some more behind that
   */
  scan(bytes: Uint8Array, end: number): void {
    this.bytes = bytes;
    this.at = 0;
    this.window.begin = this.window.end = 0;
    while (this.at < end) {
      this.skipBlanks();
      const first = bytes[this.at]!;
      const second = bytes[this.at + 1]!;
      if (first === LOWER_V) {
        if (isBlank(second)) this.numbers(this.positions, 1, 3);
        else if (second === LOWER_T && isBlank(bytes[this.at + 2]!)) this.numbers(this.uvs, 2, 2);
        else if (second === LOWER_N && isBlank(bytes[this.at + 2]!)) this.numbers(this.normals, 2, 3);
      } else if (first === LOWER_F && isBlank(second)) {
        const draft = (this.draft ??= this.group());
        if (!this.plainTriangles(draft)) {
          this.at += 1;
          this.face(draft);
        }
      } else if ((first === LOWER_O || first === LOWER_G) && (isBlank(second) || isEnd(second))) this.beginObject();
      else if (first === LOWER_U && this.word() === 'usemtl') this.useMaterial();
      this.skipLine();
    }
  }

  lists(): ObjLists {
    const groups = [...this.drafts.values()].filter(({ corners }) => corners.length > 0);
    return {
      positions: this.positions.floats(),
      normals: this.normals.floats(),
      uvs: this.uvs.floats(),
      groups: groups.map(finishGroup),
    };
  }

  private skipBlanks(): void {
    const { bytes } = this;
    let { at } = this;
    for (;;) {
      const byte = bytes[at];
      if (byte === SPACE || byte === TAB) at++;
      else if (byte === BACKSLASH && bytes[at + 1] === LINE_FEED) at += 2;
      else if (byte === BACKSLASH && bytes[at + 1] === RETURN && bytes[at + 2] === LINE_FEED) at += 3;
      else break;
    }
    this.at = at;
  }

  private skipLine(): void {
    const { bytes } = this;
    let { at } = this;
    while (!isEnd(bytes[at]!)) at++;
    this.at = at + 1;
  }

  /** The letters up to the next blank. */
  private word(): string {
    let end = this.at;
    while (end < this.at + 8 && !isBlank(this.bytes[end]!) && !isEnd(this.bytes[end]!)) end++;
    return String.fromCharCode(...this.bytes.subarray(this.at, end));
  }

  /** The rest of the line after a statement of some letters, as text. */
  private rest(letters: number): string {
    const { bytes } = this;
    const begin = this.at + letters;
    let end = begin;
    while (!isEnd(bytes[end]!)) end++;
    this.at = end;
    return TEXT.decode(bytes.subarray(begin, end)).trim();
  }

  private numbers(list: Growing, letters: number, count: number): void {
    if (this.plainNumbers(list, letters, count)) return;
    this.at += letters;
    for (let k = 0; k < count; k++) {
      this.skipBlanks();
      list.pushFloat(isEnd(this.bytes[this.at]!) ? (count === 3 ? NaN : 0) : this.number());
    }
  }

  /** The number that stands here, NaN where none does. */
  private number(): number {
    const { bytes } = this;
    const begin = this.at;
    let at = begin;
    let byte = bytes[at]!;
    const negative = byte === MINUS;
    if (negative || byte === PLUS) byte = bytes[++at]!;
    let mantissa = 0;
    let digits = 0;
    let scale = 0;
    for (; byte >= ZERO && byte <= NINE; byte = bytes[++at]!, digits++) mantissa = mantissa * 10 + byte - ZERO;
    if (byte === POINT) {
      for (byte = bytes[++at]!; byte >= ZERO && byte <= NINE; byte = bytes[++at]!, digits++, scale++)
        mantissa = mantissa * 10 + byte - ZERO;
    }
    this.at = at;
    // Up to 15 digits and powers of ten are exact in double precision, and so is what follows rounded once.
    if (digits > 0 && digits <= EXACT_DIGITS && (isBlank(byte) || isEnd(byte))) {
      const value = scale === 0 ? mantissa : mantissa / POWERS[scale]!;
      return negative ? -value : value;
    }
    while (!isBlank(bytes[this.at]!) && !isEnd(bytes[this.at]!)) this.at++;
    return parseFloat(String.fromCharCode(...bytes.subarray(begin, Math.min(this.at, begin + LONGEST_NUMBER))));
  }

  /**
   * Lets the kernel read lines of plain numbers one after another, as most lines of most files are, many times as fast as byte by byte.
   * @param pass reads lines from an address on that begin before another, and tells where it stopped
   * @returns what it wrote, a view; null for nothing. Stays at the end of the last line that was read
   */
  private plainLines(pass: (text: number, end: number, out: number) => number): Int32Array | null {
    const { window, kernel, bytes } = this;
    if (this.at < window.begin || this.at >= window.end) {
      window.begin = this.at;
      window.end = Math.min(this.at + WINDOW, bytes.length - BEHIND);
      if (window.end <= window.begin) return null;
      kernel.write(bytes.subarray(window.begin, window.end + BEHIND), window.at);
      // No line goes on beyond what is there.
      kernel.bytes(window.at + window.end - window.begin + BEHIND, 1)[0] = 0;
    }
    const text = window.at + this.at - window.begin;
    const next = pass(text, window.at + window.end - window.begin, window.out);
    if (next === text) return null;
    // The line behind is read by others, who pass the end of this one.
    this.at += next - text - 1;
    return kernel.integers(window.out, kernel.passes.numbersWritten());
  }

  /** @param letters how many letters each line begins with, the same as this one */
  private plainNumbers(list: Growing, letters: number, width: number): boolean {
    const read = this.plainLines((text, end, out) => this.kernel.passes.numberLines(text, end, letters, width, out));
    if (read) list.append(read);
    return read !== null;
  }

  /** Reads lines of triangles whose corners name the same lists as those of the draft before. */
  private plainTriangles({ corners, uvCorners, normalCorners, sizes }: Draft): boolean {
    const worn = uvCorners.length > 0;
    const shaded = normalCorners.length > 0;
    if (sizes.length > 0 || (worn && uvCorners.length !== corners.length)) return false;
    if ((shaded && normalCorners.length !== corners.length) || ((worn || shaded) && corners.length === 0)) return false;
    const lists = worn ? (shaded ? 4 : 2) : shaded ? 3 : 1;
    const read = this.plainLines((text, end, out) => this.kernel.passes.triangleLines(text, end, lists, out));
    if (!read) return false;
    const named = [corners, ...(worn ? [uvCorners] : []), ...(shaded ? [normalCorners] : [])];
    if (named.length === 1) corners.append(read);
    else named.forEach((list, k) => list.appendEach(read, k, named.length));
    return true;
  }

  private face(draft: Draft): void {
    const { corners, uvCorners, normalCorners, sizes } = draft;
    const before = corners.length;
    for (;;) {
      this.skipBlanks();
      if (isEnd(this.bytes[this.at]!)) break;
      const position = this.reference(this.positions, 3);
      if (position === NO_NUMBER) break;
      corners.push(position);
      if (this.bytes[this.at] !== SLASH) continue;
      this.at++;
      const uv = this.reference(this.uvs, 2);
      if (uv !== NO_NUMBER) {
        uvCorners.fillTo(corners.length - 1);
        uvCorners.push(uv);
      }
      if (this.bytes[this.at] !== SLASH) continue;
      this.at++;
      const normal = this.reference(this.normals, 3);
      if (normal !== NO_NUMBER) {
        normalCorners.fillTo(corners.length - 1);
        normalCorners.push(normal);
      }
    }
    const size = corners.length - before;
    if (size < 3) {
      for (const list of [corners, uvCorners, normalCorners]) list.length = Math.min(list.length, before);
      return;
    }
    if (size > 3 && sizes.length === 0) for (let k = 0; k < before; k += 3) sizes.push(3);
    if (size > 3 || sizes.length > 0) sizes.push(size);
  }

  /**
   * The position in a list that is named here, counted from 0; -1 where it names nothing, `NO_NUMBER` where no number stands.
   * @param width numbers of each position
   */
  private reference(list: Growing, width: number): number {
    const { bytes } = this;
    const first = bytes[this.at]!;
    const begin = first === MINUS || first === PLUS ? this.at + 1 : this.at;
    let at = begin;
    let value = 0;
    for (let byte = bytes[at]!; byte >= ZERO && byte <= NINE; byte = bytes[++at]!) value = value * 10 + byte - ZERO;
    this.at = at;
    if (at === begin) return NO_NUMBER;
    const position = first === MINUS ? list.length / width - value : value - 1;
    return position >= 0 && position < MOST_REFERENCE ? position : -1;
  }

  private beginObject(): void {
    // A name right after another, before any face, only says more of the same object.
    if (this.filled) this.object++;
    this.filled = false;
    this.draft = null;
    this.name = this.rest(1);
  }

  private useMaterial(): void {
    this.material = this.rest('usemtl'.length);
    this.draft = null;
  }

  /** The group of the present object and material, which may have begun before. */
  private group(): Draft {
    const { object, name, material } = this;
    const key = `${object} ${material}`;
    let draft = this.drafts.get(key);
    if (!draft) {
      draft = { object, name, material, corners: new Growing(0), uvCorners: new Growing(0), normalCorners: new Growing(0), sizes: new Growing(0) }; // prettier-ignore
      this.drafts.set(key, draft);
    }
    this.filled = true;
    return draft;
  }
}

function finishGroup({ corners, uvCorners, normalCorners, sizes, ...rest }: Draft): ObjGroup {
  for (const list of [uvCorners, normalCorners]) if (list.length > 0) list.fillTo(corners.length);
  return {
    ...rest,
    corners: corners.integers(),
    uvCorners: uvCorners.length > 0 ? uvCorners.integers() : null,
    normalCorners: normalCorners.length > 0 ? normalCorners.integers() : null,
    polygons: sizes.length > 0 ? new Uint32Array(sizes.integers()) : null,
  };
}

const EXACT_DIGITS = 15;
const POWERS = Float64Array.from({ length: EXACT_DIGITS + 1 }, (_, k) => 10 ** k);
/** Bytes that are read by the kernel at once, and those behind them that it may look at. */
const WINDOW = 1 << 20;
const BEHIND = 64;
const LONGEST_NUMBER = 64;
const MOST_REFERENCE = 2 ** 31 - 1;
const NO_NUMBER = -2;
const TEXT = new TextDecoder();

const isBlank = (byte: number): boolean => byte === SPACE || byte === TAB || byte === BACKSLASH;
const isEnd = (byte: number): boolean => byte === LINE_FEED || byte === RETURN;
