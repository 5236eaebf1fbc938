import { MATTE_RANKS } from '@zippy/kernel/layout';
import type { ExrChannel } from './exr';
import { matteId } from './matteId';

/**
 * Channels of one kind of mattes: two ranks a layer, id and coverage in turn, the largest coverage first (Friedman and Jones,
 * Cryptomatte specification 1.2, 2018).
 * @param words the film's bits, in which ids stand as they are
 * @param at where the ranks of a pixel begin
 */
export function matteChannels(
  name: string,
  film: Float32Array,
  words: Uint32Array,
  count: number,
  floats: number,
  at: number,
): ExrChannel[] {
  const planes = Array.from({ length: MATTE_RANKS * 2 }, () => new Float32Array(count));
  const bits = planes.map((plane) => new Uint32Array(plane.buffer));
  const order = Array.from({ length: MATTE_RANKS }, (_, k) => k);
  for (let k = 0; k < count; k++) {
    const from = k * floats + at;
    order.sort(
      (a, b) => film[from + b * 2 + 1]! - film[from + a * 2 + 1]! || words[from + a * 2]! - words[from + b * 2]!,
    );
    for (let rank = 0; rank < MATTE_RANKS; rank++) {
      const source = from + order[rank]! * 2;
      bits[rank * 2]![k] = words[source]!;
      planes[rank * 2 + 1]![k] = film[source + 1]!;
    }
  }
  return planes.map((data, k) => ({
    name: `${name}${String(k >> 2).padStart(2, '0')}.${'RGBA'[k & 3]!}`,
    type: 'float',
    data,
  }));
}

/** Attributes that tell other programs what the ids stand for. */
export function matteText(name: string, names: string[]): Record<string, string> {
  const hex = (id: number) => id.toString(16).padStart(8, '0');
  const key = `cryptomatte/${hex(matteId(name)).slice(0, 7)}`;
  return {
    [`${key}/name`]: name,
    [`${key}/hash`]: 'MurmurHash3_32',
    [`${key}/conversion`]: 'uint32_to_float32',
    [`${key}/manifest`]: JSON.stringify(Object.fromEntries(names.map((each) => [each, hex(matteId(each))]))),
  };
}

/** What the ids of a kind of mattes stand for, as attributes of a file say; those of broken attributes are none. */
export function matteNames(name: string, text: Readonly<Record<string, string>>): Map<number, string> {
  const key = Object.keys(text).find((each) => each.endsWith('/name') && text[each] === name);
  const manifest = key && text[key.replace(/name$/, 'manifest')];
  try {
    const names = JSON.parse(manifest || '{}') as Record<string, unknown>;
    return new Map(Object.keys(names).map((each) => [matteId(each), each]));
  } catch {
    return new Map();
  }
}
