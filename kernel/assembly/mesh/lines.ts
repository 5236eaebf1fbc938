// Reads lines of plain numbers, eight digits at a time.

const LINE_FEED: u32 = 10;
const RETURN: u32 = 13;
const SPACE: u32 = 32;
const MINUS: u32 = 45;
const POINT: u32 = 46;
const SLASH: u32 = 47;
const ZEROS: u64 = 0x3030303030303030;
/** Up to so many digits are exact in double precision. */
const EXACT_DIGITS: u32 = 15;

const POWERS = memory.data<f64>([1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15]);
const WHOLE_POWERS = memory.data<u64>([1, 10, 100, 1000, 10000, 100000, 1000000, 10000000, 100000000]);

/** What `digits` read last: where it ended, and how many there were, 17 where there were more than it reads. */
let next: usize = 0;
let count: u32 = 0;
/** How many numbers the last run wrote. */
let written: u32 = 0;

export function numbersWritten(): u32 {
  return written;
}

/** Eight times the number of digits at the beginning of eight bytes, the first lowest, of which the zeros have been taken off. */
function digitBits(word: u64): u64 {
  // A byte beyond 9 gets its highest bit, and no carry reaches the next one below the first that does.
  const not = (word | (word + 0x7676767676767676)) & 0x8080808080808080;
  return not === 0 ? 64 : (<u64>ctz(not)) & 0x78;
}

/** The number of the digits at the beginning of eight bytes (after Lemire, Number Parsing at a Gigabyte per Second, 2021). */
function digitValue(word: u64, bits: u64): u64 {
  if (bits === 0) return 0;
  let v = word << (64 - bits);
  v = (v * 10 + (v >> 8)) & 0x00ff00ff00ff00ff;
  v = (v * 100 + (v >> 16)) & 0x0000ffff0000ffff;
  return (v * 10000 + (v >> 32)) & 0xffffffff;
}

/** The whole number that stands at a place, of up to 16 digits. */
function digits(at: usize): u64 {
  const word = load<u64>(at) ^ ZEROS;
  const bits = digitBits(word);
  const value = digitValue(word, bits);
  if (bits < 64) {
    count = <u32>(bits >> 3);
    next = at + <usize>(bits >> 3);
    return value;
  }
  const more = load<u64>(at + 8) ^ ZEROS;
  const moreBits = digitBits(more);
  count = moreBits === 64 ? 17 : 8 + <u32>(moreBits >> 3);
  next = at + 8 + <usize>(moreBits >> 3);
  return value * load<u64>(WHOLE_POWERS + <usize>moreBits) + digitValue(more, moreBits);
}

function lineEnd(from: usize): usize {
  let at = from;
  while (load<u8>(at) === SPACE) at++;
  if (load<u8>(at) === RETURN) at++;
  return load<u8>(at) === LINE_FEED ? at + 1 : 0;
}

/**
 * Reads lines of numbers from a text, as long as they begin with the same letters as the first one and hold nothing else.
 * @param end lines that begin there or behind are left; 64 bytes behind can be read
 * @param letters how many letters a line begins with
 * @param width how many numbers a line has
 * @param out f32 numbers; room for one in two bytes of the text
 * @returns where the first line begins that was not read
 */
export function numberLines(text: usize, end: usize, letters: u32, width: u32, out: usize): usize {
  const first = load<u8>(text);
  const last = load<u8>(text + letters - 1);
  let line = text;
  let to = out;
  while (line < end && load<u8>(line) === first && load<u8>(line + letters - 1) === last) {
    let at = line + letters;
    let k: u32 = 0;
    for (; k < width && load<u8>(at) === SPACE; k++) {
      while (load<u8>(at) === SPACE) at++;
      const negative = load<u8>(at) === MINUS;
      if (negative) at++;
      const whole = digits(at);
      const wholeDigits = count;
      at = next;
      let value = <f64>whole;
      let all = wholeDigits;
      if (load<u8>(at) === POINT) {
        const part = digits(at + 1);
        at = next;
        all += count;
        if (all > EXACT_DIGITS) break;
        // All digits together are a whole number that double precision holds, so that what follows is rounded once.
        const power = load<f64>(POWERS + ((<usize>count) << 3));
        value = (value * power + <f64>part) / power;
      }
      if (all < 1 || all > EXACT_DIGITS) break;
      store<f32>(to + ((<usize>k) << 2), <f32>(negative ? -value : value));
    }
    const ended = k === width ? lineEnd(at) : 0;
    if (!ended) break;
    to += (<usize>width) << 2;
    line = ended;
  }
  written = <u32>((to - out) >> 2);
  return line;
}

/**
 * Reads lines of triangles in the same way.
 * @param lists how many lists a corner names: 1 places, 2 places and coordinates, 3 places and normals, 4 all three
 * @param out u32 numbers from 0, all that a corner names together
 */
export function triangleLines(text: usize, end: usize, lists: u32, out: usize): usize {
  const letter = load<u8>(text);
  const worn = lists === 2 || lists === 4;
  const shaded = lists >= 3;
  let line = text;
  let to = out;
  while (line < end && load<u8>(line) === letter) {
    let at = line + 1;
    let k = 0;
    let own = to;
    for (; k < 3 && load<u8>(at) === SPACE; k++) {
      while (load<u8>(at) === SPACE) at++;
      let value = digits(at);
      if (value === 0 || count > 9) break;
      store<u32>(own, <u32>value - 1);
      own += 4;
      if (worn) {
        if (load<u8>(next) !== SLASH) break;
        value = digits(next + 1);
        if (value === 0 || count > 9) break;
        store<u32>(own, <u32>value - 1);
        own += 4;
      }
      if (shaded) {
        if (load<u8>(next) !== SLASH) break;
        if (!worn) {
          next++;
          if (load<u8>(next) !== SLASH) break;
        }
        value = digits(next + 1);
        if (value === 0 || count > 9) break;
        store<u32>(own, <u32>value - 1);
        own += 4;
      }
      at = next;
    }
    const ended = k === 3 ? lineEnd(at) : 0;
    if (!ended) break;
    to = own;
    line = ended;
  }
  written = <u32>((to - out) >> 2);
  return line;
}
