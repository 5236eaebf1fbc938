import { LEVELS, luma, SEEN, type ShownPicture } from './scope';

/** Pixels by level: of luma, red, green and blue. */
export interface Histogram {
  luma: Uint32Array<ArrayBuffer>;
  red: Uint32Array<ArrayBuffer>;
  green: Uint32Array<ArrayBuffer>;
  blue: Uint32Array<ArrayBuffer>;
}

/** How many pixels have which level. */
export function histogram({ pixels }: ShownPicture): Histogram {
  const counts = () => new Uint32Array(LEVELS);
  const out = { luma: counts(), red: counts(), green: counts(), blue: counts() };
  for (let at = 0; at < pixels.length; at += 4) {
    if (pixels[at + 3]! < SEEN) continue;
    const [r, g, b] = [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
    out.red[r]!++;
    out.green[g]!++;
    out.blue[b]!++;
    out.luma[(luma(r, g, b) + 0.5) | 0]!++;
  }
  return out;
}
