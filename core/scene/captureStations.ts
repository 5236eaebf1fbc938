import type { Vector3 } from '../document';

/** How cameras stand about a product: all round, above it, or on rings. */
export const CAPTURE_SHAPES = ['sphere', 'dome', 'rings'] as const;
export type CaptureShape = (typeof CAPTURE_SHAPES)[number];

export interface CapturePlan {
  shape: CaptureShape;
  count: number;
  /** Millimetres from the middle. */
  radius: number;
  /** Of rings: how many, evenly between the lowest and the highest, and how far up those stand, in radians from level. */
  rings: number;
  lowest: number;
  highest: number;
}

const GOLDEN = Math.PI * (3 - Math.sqrt(5));

/**
 * Places of cameras about a middle, evenly: on a sphere or its upper half by a spiral of the golden angle (R. Swinbank and R. J. Purser,
 * Fibonacci grids, 2006), or on rings in turn, those of each ring between those of the one below.
 * @returns as many places as the plan counts, in the order in which a camera goes through them
 */
export function captureStations(
  { shape, count, radius, rings, lowest, highest }: CapturePlan,
  middle: Vector3,
): Vector3[] {
  const at = (up: number, turn: number): Vector3 => {
    const level = Math.sqrt(Math.max(0, 1 - up * up)) * radius;
    return [middle[0] + level * Math.sin(turn), middle[1] + up * radius, middle[2] + level * Math.cos(turn)];
  };
  if (shape !== 'rings') {
    // Each place stands for as much of the surface as any other.
    const upOf = (k: number) => (shape === 'sphere' ? 1 - (2 * k + 1) / count : 1 - (k + 0.5) / count);
    return Array.from({ length: count }, (_, k) => at(upOf(k), k * GOLDEN));
  }
  const used = Math.min(rings, count);
  return Array.from({ length: used }, (_, ring) => {
    // What does not come out even is spread over the first rings.
    const own = Math.floor(count / used) + (ring < count % used ? 1 : 0);
    const up = Math.sin(used === 1 ? (lowest + highest) / 2 : lowest + ((highest - lowest) * ring) / (used - 1));
    return Array.from({ length: own }, (_, k) => at(up, ((k + (ring % 2) / 2) * 2 * Math.PI) / own));
  }).flat();
}

/**
 * How many cameras on a sphere or a dome see a product so that neighbours share a part of their pictures.
 * @param overlap part of a picture that the next one shows too, 0 to 1
 * @param fills part of the picture's height that the product fills
 */
export function captureCount(shape: 'sphere' | 'dome', overlap: number, fills = 0.8): number {
  // From one place to the next the product turns by the part of what is seen of it that is not shared: half a turn is all of it.
  const step = Math.max(0.02, (1 - overlap) * Math.PI * fills * 0.5);
  return Math.max(4, Math.round(((shape === 'sphere' ? 4 : 2) * Math.PI) / (step * step)));
}

/** Distance at which a ball of a size fills a part of the picture's smaller side. @param tanHalf of half the angle of that side */
export const captureRadius = (size: number, tanHalf: number, fills = 0.8): number =>
  size / 2 / Math.sin(Math.atan(tanHalf * fills));
