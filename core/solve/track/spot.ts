/** A place in pixels; the middle of the first pixel is 0, 0. */
export interface Spot {
  x: number;
  y: number;
}
