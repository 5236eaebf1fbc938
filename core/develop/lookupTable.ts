import { UserProblem } from '../document';

/** A look-up table of display values: three values an entry; of a cube, red changes fastest. */
export interface LookupTable {
  /** Entries along each edge of a cube, or along a line for each channel alone. */
  size: number;
  cube: boolean;
  values: Float32Array;
  low: [number, number, number];
  high: [number, number, number];
}

const MOST_OF_CUBE = 129;
const MOST_OF_LINE = 65_536;
const NUMBER = /^[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?$/;

/** Reads a `.cube` look-up table. @throws UserProblem `lookup-broken` with what is wrong and in which line */
export function readCube(text: string, name: string): LookupTable {
  const refuse = (why: string) =>
    new UserProblem(
      'lookup-broken',
      `"${name}" cannot serve as a look-up table: ${why}. Choose a .cube file with LUT_3D_SIZE or LUT_1D_SIZE.`,
      422,
    );
  let [size, cube] = [0, true];
  let low: [number, number, number] = [0, 0, 0];
  let high: [number, number, number] = [1, 1, 1];
  let values = new Float32Array(0);
  let count = 0;
  const numbers = (words: string[], line: number): [number, number, number] => {
    if (words.length !== 3 || words.some((word) => !NUMBER.test(word)))
      throw refuse(`line ${line} holds no three numbers`);
    return words.map((word) => Math.min(65504, Math.max(-65504, Number(word)))) as [number, number, number];
  };
  for (const [at, line] of text.split(/\r\n|\r|\n/).entries()) {
    const words = line.trim().split(/\s+/);
    const [key] = words as [string];
    if (key === '' || key.startsWith('#') || key === 'TITLE') continue;
    if (key === 'LUT_3D_SIZE' || key === 'LUT_1D_SIZE') {
      if (size > 0) throw refuse(`line ${at + 1} gives a second size`);
      cube = key === 'LUT_3D_SIZE';
      size = /^\d{1,6}$/.test(words[1] ?? '') ? Number(words[1]) : 0;
      const most = cube ? MOST_OF_CUBE : MOST_OF_LINE;
      if (size < 2 || size > most) throw refuse(`its size is not from 2 to ${most}`);
      values = new Float32Array((cube ? size ** 3 : size) * 3);
    } else if (key === 'DOMAIN_MIN') low = numbers(words.slice(1), at + 1);
    else if (key === 'DOMAIN_MAX') high = numbers(words.slice(1), at + 1);
    else if (/^[A-Z_0-9]+$/.test(key) && !NUMBER.test(key)) continue;
    else {
      const entry = numbers(words, at + 1);
      if (count >= values.length)
        throw refuse(size === 0 ? 'it gives no size' : 'it holds more entries than its size says');
      values.set(entry, count);
      count += 3;
    }
  }
  if (size === 0) throw refuse('it gives no size');
  if (count < values.length) throw refuse(`it holds ${count / 3} of ${values.length / 3} entries`);
  if (low.some((v, k) => !(high[k]! > v))) throw refuse('its domain is empty');
  return { size, cube, values, low, high };
}

/** Changes three values in place: along lines between entries, or in the tetrahedron of a cube's cell that holds them. */
export function lookUpColor({ size, cube, values, low, high }: LookupTable, color: Float64Array): void {
  const last = size - 1;
  for (let k = 0; k < 3; k++) color[k] = Math.min(1, Math.max(0, (color[k]! - low[k]!) / (high[k]! - low[k]!))) * last;
  if (!cube) {
    for (let k = 0; k < 3; k++) {
      const at = Math.min(last - 1, Math.floor(color[k]!));
      const [a, b] = [values[at * 3 + k]!, values[at * 3 + 3 + k]!];
      color[k] = a + (b - a) * (color[k]! - at);
    }
    return;
  }
  const steps = [3, 3 * size, 3 * size * size] as const;
  let from = 0;
  const [f0, f1, f2] = [0, 1, 2].map((k) => {
    const at = Math.min(last - 1, Math.floor(color[k]!));
    from += at * steps[k]!;
    return color[k]! - at;
  }) as [number, number, number];
  // From the low corner to the high one by way of the corners in the order of the fractions, the largest first.
  const order = f0 >= f1 ? (f1 >= f2 ? ORDERS[0] : f0 >= f2 ? ORDERS[1] : ORDERS[2]) : f0 >= f2 ? ORDERS[3] : f1 >= f2 ? ORDERS[4] : ORDERS[5]; // prettier-ignore
  const fractions = [f0, f1, f2];
  for (let k = 0; k < 3; k++) {
    let at = from + k;
    let value = values[at]!;
    for (const axis of order!) {
      const next = at + steps[axis]!;
      value += (values[next]! - values[at]!) * fractions[axis]!;
      at = next;
    }
    color[k] = value;
  }
}

const ORDERS = [[0, 1, 2], [0, 2, 1], [2, 0, 1], [1, 0, 2], [1, 2, 0], [2, 1, 0]] as const; // prettier-ignore
