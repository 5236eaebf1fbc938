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
  return new ObjScanner(bytes).scan();
}

/** A list of numbers that grows. */
class Growing<A extends Float32Array<ArrayBuffer> | Int32Array<ArrayBuffer>> {
  length = 0;

  constructor(
    private array: A,
    private readonly make: (size: number) => A,
  ) {}

  push(value: number): void {
    if (this.length === this.array.length) {
      const longer = this.make(Math.max(64, this.length * 2));
      longer.set(this.array);
      this.array = longer;
    }
    this.array[this.length++] = value;
  }

  /** Says of all up to a length that they name nothing. */
  fillTo(length: number): void {
    while (this.length < length) this.push(-1);
  }

  done(): A {
    return this.array.slice(0, this.length) as A;
  }
}

const floats = () => new Growing(new Float32Array(64), (size) => new Float32Array(size));
const integers = () => new Growing(new Int32Array(0), (size) => new Int32Array(size));

/** A group while it grows. */
interface Draft {
  object: number;
  name: string;
  material: string;
  corners: Growing<Int32Array<ArrayBuffer>>;
  uvCorners: Growing<Int32Array<ArrayBuffer>>;
  normalCorners: Growing<Int32Array<ArrayBuffer>>;
  /** Stays empty until the first face with more than three corners. */
  sizes: Growing<Int32Array<ArrayBuffer>>;
}

class ObjScanner {
  private at = 0;
  private readonly positions = floats();
  private readonly normals = floats();
  private readonly uvs = floats();
  private readonly drafts = new Map<string, Draft>();
  private object = 0;
  private name = '';
  private material = '';
  /** The present object has faces. */
  private filled = false;
  private draft: Draft | null = null;

  constructor(private readonly bytes: Uint8Array) {}

  scan(): ObjLists {
    const { bytes } = this;
    while (this.at < bytes.length) {
      this.skipBlanks();
      const first = bytes[this.at];
      const second = bytes[this.at + 1];
      if (first === LOWER_V) {
        if (isBlank(second)) this.numbers(this.positions, 1, 3);
        else if (second === LOWER_T && isBlank(bytes[this.at + 2])) this.numbers(this.uvs, 2, 2);
        else if (second === LOWER_N && isBlank(bytes[this.at + 2])) this.numbers(this.normals, 2, 3);
      } else if (first === LOWER_F && isBlank(second)) this.face();
      else if ((first === LOWER_O || first === LOWER_G) && (isBlank(second) || isEnd(second))) this.beginObject();
      else if (first === LOWER_U && this.word() === 'usemtl') this.useMaterial();
      this.skipLine();
    }
    const groups = [...this.drafts.values()].filter(({ corners }) => corners.length > 0);
    return {
      positions: this.positions.done(),
      normals: this.normals.done(),
      uvs: this.uvs.done(),
      groups: groups.map(finishGroup),
    };
  }

  private skipBlanks(): void {
    const { bytes } = this;
    for (;;) {
      const byte = bytes[this.at];
      if (byte === SPACE || byte === TAB) this.at++;
      else if (byte === BACKSLASH && bytes[this.at + 1] === LINE_FEED) this.at += 2;
      else if (byte === BACKSLASH && bytes[this.at + 1] === RETURN && bytes[this.at + 2] === LINE_FEED) this.at += 3;
      else return;
    }
  }

  private skipLine(): void {
    while (!isEnd(this.bytes[this.at])) this.at++;
    this.at++;
  }

  /** The letters up to the next blank. */
  private word(): string {
    let end = this.at;
    while (end < this.at + 8 && !isBlank(this.bytes[end]) && !isEnd(this.bytes[end])) end++;
    return String.fromCharCode(...this.bytes.subarray(this.at, end));
  }

  /** The rest of the line after a statement of some letters, as text. */
  private rest(letters: number): string {
    const { bytes } = this;
    const begin = this.at + letters;
    let end = begin;
    while (!isEnd(bytes[end])) end++;
    this.at = end;
    return TEXT.decode(bytes.subarray(begin, end)).trim();
  }

  private numbers(list: Growing<Float32Array<ArrayBuffer>>, letters: number, count: number): void {
    this.at += letters;
    for (let k = 0; k < count; k++) {
      this.skipBlanks();
      list.push(isEnd(this.bytes[this.at]) ? (count === 3 ? NaN : 0) : this.number());
    }
  }

  /** The number that stands here, NaN where none does. */
  private number(): number {
    const { bytes } = this;
    const begin = this.at;
    let at = begin;
    let byte = bytes[at];
    const negative = byte === MINUS;
    if (negative || byte === PLUS) byte = bytes[++at];
    let mantissa = 0;
    let digits = 0;
    let scale = 0;
    for (; byte! >= ZERO && byte! <= NINE; byte = bytes[++at], digits++) mantissa = mantissa * 10 + byte! - ZERO;
    if (byte === POINT) {
      for (byte = bytes[++at]; byte! >= ZERO && byte! <= NINE; byte = bytes[++at], digits++, scale++)
        mantissa = mantissa * 10 + byte! - ZERO;
    }
    this.at = at;
    // Up to 15 digits and powers of ten are exact in double precision, and so is what follows rounded once.
    if (digits > 0 && digits <= EXACT_DIGITS && (isBlank(byte) || isEnd(byte))) {
      const value = scale === 0 ? mantissa : mantissa / POWERS[scale]!;
      return negative ? -value : value;
    }
    while (!isBlank(bytes[this.at]) && !isEnd(bytes[this.at])) this.at++;
    return parseFloat(String.fromCharCode(...bytes.subarray(begin, Math.min(this.at, begin + LONGEST_NUMBER))));
  }

  private face(): void {
    this.at += 1;
    const draft = (this.draft ??= this.group());
    const { corners, uvCorners, normalCorners, sizes } = draft;
    const before = corners.length;
    for (;;) {
      this.skipBlanks();
      if (isEnd(this.bytes[this.at])) break;
      const position = this.reference(this.positions.length / 3);
      if (position === null) break;
      corners.push(position);
      if (this.bytes[this.at] !== SLASH) continue;
      this.at++;
      const uv = this.reference(this.uvs.length / 2);
      if (uv !== null) {
        uvCorners.fillTo(corners.length - 1);
        uvCorners.push(uv);
      }
      if (this.bytes[this.at] !== SLASH) continue;
      this.at++;
      const normal = this.reference(this.normals.length / 3);
      if (normal !== null) {
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

  /** The position in a list that is named here, counted from 0; below 0 where it names nothing, null where no number stands. */
  private reference(count: number): number | null {
    const { bytes } = this;
    const negative = bytes[this.at] === MINUS;
    if (negative || bytes[this.at] === PLUS) this.at++;
    let value = 0;
    let digits = 0;
    for (let byte = bytes[this.at]!; byte >= ZERO && byte <= NINE; byte = bytes[++this.at]!, digits++)
      value = value * 10 + byte - ZERO;
    if (digits === 0) return null;
    const position = negative ? count - value : value - 1;
    return position < MOST_REFERENCE ? Math.max(-1, position) : -1;
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
      draft = { object, name, material, corners: integers(), uvCorners: integers(), normalCorners: integers(), sizes: integers() }; // prettier-ignore
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
    corners: corners.done(),
    uvCorners: uvCorners.length > 0 ? uvCorners.done() : null,
    normalCorners: normalCorners.length > 0 ? normalCorners.done() : null,
    polygons: sizes.length > 0 ? new Uint32Array(sizes.done()) : null,
  };
}

const EXACT_DIGITS = 15;
const POWERS = Array.from({ length: EXACT_DIGITS + 1 }, (_, k) => 10 ** k);
const LONGEST_NUMBER = 64;
const MOST_REFERENCE = 2 ** 31 - 1;
const TEXT = new TextDecoder();

const isBlank = (byte: number | undefined): boolean => byte === SPACE || byte === TAB || byte === BACKSLASH;
const isEnd = (byte: number | undefined): boolean => byte === undefined || byte === LINE_FEED || byte === RETURN;
