import { LEVELS, luma, SEEN, type Density, type ShownPicture } from './scope';

/** Levels of luma over the picture's width: bright on top. @param across columns that are told apart */
export function waveform(picture: ShownPicture, across: number): Density {
  const { width, pixels } = picture;
  const counts = new Uint32Array(across * LEVELS);
  const column = columns(width, across);
  for (let at = 0, x = 0; at < pixels.length; at += 4, x = x + 1 === width ? 0 : x + 1) {
    if (pixels[at + 3]! < SEEN) continue;
    const level = (luma(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!) + 0.5) | 0;
    counts[(LEVELS - 1 - level) * across + column[x]!]!++;
  }
  return { across, down: LEVELS, counts };
}

/** The same of red, green and blue beside each other. @param across columns that are told apart of each */
export function parade(picture: ShownPicture, across: number): [Density, Density, Density] {
  const { width, pixels } = picture;
  const counts = [0, 1, 2].map(() => new Uint32Array(across * LEVELS)) as Uint32Array<ArrayBuffer>[];
  const column = columns(width, across);
  for (let at = 0, x = 0; at < pixels.length; at += 4, x = x + 1 === width ? 0 : x + 1) {
    if (pixels[at + 3]! < SEEN) continue;
    const own = column[x]!;
    for (let k = 0; k < 3; k++) counts[k]![(LEVELS - 1 - pixels[at + k]!) * across + own]!++;
  }
  return counts.map((each) => ({ across, down: LEVELS, counts: each })) as [Density, Density, Density];
}

/** Which column each place of a row falls on. */
const columns = (width: number, across: number): Uint16Array =>
  Uint16Array.from({ length: width }, (_, x) => Math.floor((x * across) / width));
