import type { Mask } from '../changes';

/** Pixels of four values: red, green, blue as displays show them, and opacity. */
export type Pixels = Uint8Array | Uint16Array | Uint8ClampedArray;

const full = (pixels: Pixels): number => (pixels instanceof Uint16Array ? 65_535 : 255);

/** Pictures of one size mixed by shares that add up to 1; what is more open counts less for the colour. */
export function mixShares<P extends Pixels>(pictures: readonly { pixels: P; share: number }[]): P {
  const [only] = pictures;
  if (pictures.length === 1) return only!.pixels;
  const out = only!.pixels.slice() as P;
  for (let at = 0; at < out.length; at += 4) {
    let [r, g, b, a] = [0, 0, 0, 0];
    for (const { pixels, share } of pictures) {
      const weight = share * pixels[at + 3]!;
      r += weight * pixels[at]!;
      g += weight * pixels[at + 1]!;
      b += weight * pixels[at + 2]!;
      a += weight;
    }
    const over = a > 0 ? 1 / a : 0;
    out[at] = r * over + 0.5;
    out[at + 1] = g * over + 0.5;
    out[at + 2] = b * over + 0.5;
    out[at + 3] = a + 0.5;
  }
  return out;
}

/** Lays a picture over another one of the same size, where a mask lets it be seen. Changes the one below. */
export function layOver(below: Pixels, above: Pixels, width: number, mask: Mask | null): void {
  const most = full(below);
  const seen = shareOf(mask);
  for (let at = 0, x = 0, y = 0; at < below.length; at += 4) {
    blendPixel(below, at, above[at]!, above[at + 1]!, above[at + 2]!, (above[at + 3]! / most) * seen(x, y), most);
    if (++x === width) [x, y] = [0, y + 1];
  }
}

/** Lets one picture give way to another of the same size: what is open in either is open. Changes the first. */
export function giveWay(before: Pixels, after: Pixels, width: number, mask: Mask): void {
  const seen = shareOf(mask);
  for (let at = 0, x = 0, y = 0; at < before.length; at += 4) {
    const share = seen(x, y);
    const [kept, come] = [(1 - share) * before[at + 3]!, share * after[at + 3]!];
    const alpha = kept + come;
    const over = alpha > 0 ? 1 / alpha : 0;
    for (let c = 0; c < 3; c++) before[at + c] = (kept * before[at + c]! + come * after[at + c]!) * over + 0.5;
    before[at + 3] = alpha + 0.5;
    if (++x === width) [x, y] = [0, y + 1];
  }
}

/** Lays a colour over a picture: display values from 0 to 1. */
export function veil(pixels: Pixels, [r, g, b]: readonly [number, number, number], share: number): void {
  const most = full(pixels);
  for (let at = 0; at < pixels.length; at += 4) blendPixel(pixels, at, r * most, g * most, b * most, share, most);
}

/** A picture of one colour with nothing open. */
export function fill(pixels: Pixels, [r, g, b]: readonly [number, number, number]): void {
  const most = full(pixels);
  for (let at = 0; at < pixels.length; at += 4) {
    pixels[at] = r * most + 0.5;
    pixels[at + 1] = g * most + 0.5;
    pixels[at + 2] = b * most + 0.5;
    pixels[at + 3] = most;
  }
}

/** "Over" of T. Porter and T. Duff, Compositing Digital Images, 1984, for colours that are not multiplied by opacity. */
function blendPixel(below: Pixels, at: number, r: number, g: number, b: number, share: number, most: number): void {
  if (share <= 0) return;
  const under = (1 - share) * (below[at + 3]! / most);
  const alpha = share + under;
  below[at] = (share * r + under * below[at]!) / alpha + 0.5;
  below[at + 1] = (share * g + under * below[at + 1]!) / alpha + 0.5;
  below[at + 2] = (share * b + under * below[at + 2]!) / alpha + 0.5;
  below[at + 3] = alpha * most + 0.5;
}

/** How much is seen at a pixel, whose middle counts. */
function shareOf(mask: Mask | null): (x: number, y: number) => number {
  if (!mask) return () => 1;
  if (mask.kind === 'even') return () => mask.share;
  const [ax, ay] = mask.from;
  const [dx, dy] = [mask.to[0] - ax, mask.to[1] - ay];
  const over = 1 / (dx * dx + dy * dy);
  return (x, y) => Math.min(1, Math.max(0, 1 - ((x + 0.5 - ax) * dx + (y + 0.5 - ay) * dy) * over));
}

/** Puts a picture into a larger or smaller one at whole pixels. Changes the one it is put into. */
export function putInto(
  film: Pixels,
  filmWidth: number,
  picture: Pixels,
  size: { width: number; height: number },
  x: number,
  y: number,
): void {
  const most = full(film);
  const filmHeight = film.length / 4 / filmWidth;
  for (let row = Math.max(0, -y); row < size.height && row + y < filmHeight; row++) {
    for (let column = Math.max(0, -x); column < size.width && column + x < filmWidth; column++) {
      const from = 4 * (row * size.width + column);
      const to = 4 * ((row + y) * filmWidth + column + x);
      const share = picture[from + 3]! / most;
      blendPixel(film, to, picture[from]!, picture[from + 1]!, picture[from + 2]!, share, most);
    }
  }
}
