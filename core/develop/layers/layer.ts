import type { Look } from '../../document';

/** Channels of a kept frame by their names, one value a pixel, top row first. */
export interface LayerSource {
  width: number;
  height: number;
  channel(name: string): Float32Array | Uint32Array | undefined;
  /** What the ids of mattes stand for: names by id, of parts and of finishes. */
  names: { parts: ReadonlyMap<number, string>; finishes: ReadonlyMap<number, string> };
  look: Look;
}

/** A layer as it is looked at. */
export interface LayerPicture {
  /** Coded display values: four a pixel, alpha straight, top row first. */
  pixels: Float32Array;
  /** What black and white stand for, where grey stands for a measure. */
  range: { low: number; high: number; unit: string } | null;
}

/** All that there is to know of showing one layer of a take. */
export interface LayerView {
  title: string;
  says: string;
  /** Channels that it needs. */
  channels: readonly string[];
  /** How it is looked at; null where it is developed as the whole picture is. */
  picture: ((source: LayerSource) => LayerPicture) | null;
}

/** A picture of three planes, each made into display values. */
export function inColors(
  source: LayerSource,
  names: readonly string[],
  coded: (value: number, k: number) => number,
): Float32Array {
  const pixels = new Float32Array(source.width * source.height * 4).fill(1);
  names.forEach((name, k) => {
    const plane = source.channel(name)!;
    for (let at = 0; at < plane.length; at++) pixels[at * 4 + k] = coded(plane[at]!, k);
  });
  return pixels;
}

/** A picture of one plane in grey. */
export function inGrey(source: LayerSource, name: string, coded: (value: number) => number): Float32Array {
  const pixels = new Float32Array(source.width * source.height * 4).fill(1);
  const plane = source.channel(name)!;
  for (let at = 0; at < plane.length; at++) pixels.fill(coded(plane[at]!), at * 4, at * 4 + 3);
  return pixels;
}

/** Least and largest value of a plane where something is seen. */
export function rangeOf(plane: ArrayLike<number>, seen: ArrayLike<number> | undefined): { low: number; high: number } {
  let [low, high] = [Infinity, -Infinity];
  for (let k = 0; k < plane.length; k++) {
    const value = plane[k]!;
    if ((seen && seen[k]! <= 0) || !(Math.abs(value) < 1e9) || value === 0) continue;
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return low <= high ? { low, high } : { low: 0, high: 0 };
}
