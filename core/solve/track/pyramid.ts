/** Brightness of a picture, 0 to 1, top row first. */
export interface Grey {
  width: number;
  height: number;
  values: Float32Array;
}

/** The brightness of pixels of four bytes. */
export function greyOf(pixels: ArrayLike<number>, width: number, height: number): Grey {
  const values = new Float32Array(width * height);
  for (let k = 0; k < values.length; k++)
    values[k] = (0.2126 * pixels[k * 4]! + 0.7152 * pixels[k * 4 + 1]! + 0.0722 * pixels[k * 4 + 2]!) / 255;
  return { width, height, values };
}

/** A picture and smaller ones of it, each half as wide as the one before (Burt and Adelson, The Laplacian Pyramid, 1983). */
export function pyramidOf(grey: Grey, levels: number): Grey[] {
  const made = [grey];
  while (made.length < levels) {
    const last = made[made.length - 1]!;
    if (Math.min(last.width, last.height) < 32) break;
    made.push(halved(last));
  }
  return made;
}

const KERNEL = [1 / 16, 4 / 16, 6 / 16, 4 / 16, 1 / 16];

function halved({ width, height, values }: Grey): Grey {
  const [across, down] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const rows = new Float32Array(across * height);
  const within = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < across; x++)
      for (let k = -2; k <= 2; k++)
        rows[y * across + x]! += KERNEL[k + 2]! * values[y * width + within(2 * x + k, width)]!;
  const out = new Float32Array(across * down);
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++)
      for (let k = -2; k <= 2; k++)
        out[y * across + x]! += KERNEL[k + 2]! * rows[within(2 * y + k, height) * across + x]!;
  return { width: across, height: down, values: out };
}

/** Brightness between pixels, whose middles are whole numbers. */
export function greyAt({ width, height, values }: Grey, x: number, y: number): number {
  const cx = Math.min(width - 1.001, Math.max(0, x));
  const cy = Math.min(height - 1.001, Math.max(0, y));
  const [i, j] = [Math.floor(cx), Math.floor(cy)];
  const [u, v] = [cx - i, cy - j];
  const at = j * width + i;
  const [below, right] = [j + 1 < height ? width : 0, i + 1 < width ? 1 : 0];
  return (
    (values[at]! * (1 - u) + values[at + right]! * u) * (1 - v) +
    (values[at + below]! * (1 - u) + values[at + below + right]! * u) * v
  );
}
