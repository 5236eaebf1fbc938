/** A picture as the display gets it: RGBA bytes, top row first. */
export interface ShownPicture {
  width: number;
  height: number;
  pixels: Uint8Array | Uint8ClampedArray;
}

/** Levels of a coded value. */
export const LEVELS = 256;

/** How many pixels fall on each point of a plane: `across` counts a row, the first row on top. */
export interface Density {
  across: number;
  down: number;
  counts: Uint32Array<ArrayBuffer>;
}

/** Coded luma, 0 to 255 (ITU-R BT.709-6), of coded values. */
export const luma = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Pixels with less than this alpha show nothing of their own. */
export const SEEN = 8;
