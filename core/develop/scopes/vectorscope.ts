import { SEEN, type Density, type ShownPicture } from './scope';

const SIZE = 256;

/** Where a colour lies: blue-difference to the right, red-difference up, -0.5 to 0.5 each (ITU-R BT.709-6). Of coded values, 0 to 1. */
export function chroma(r: number, g: number, b: number): [number, number] {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return [(b - y) / 1.8556, (r - y) / 1.5748];
}

/** Colours of a picture by their differences from grey, which lies in the middle. */
export function vectorscope({ pixels }: ShownPicture): Density {
  const counts = new Uint32Array(SIZE * SIZE);
  for (let at = 0; at < pixels.length; at += 4) {
    if (pixels[at + 3]! < SEEN) continue;
    const [r, g, b] = [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
    const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    const across = (((b - y) / 1.8556 + 127.5) | 0) & 255;
    const down = ((127.5 - (r - y) / 1.5748) | 0) & 255;
    counts[down * SIZE + across]!++;
  }
  return { across: SIZE, down: SIZE, counts };
}
