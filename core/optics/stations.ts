import { add, length, scale, subtract, type Vector } from '../geometry';

/** A place at a product where lamps are wanted: as seen from its camera, in sizes of the product from its middle. */
interface Station {
  title: string;
  /** To the right, up, and towards the camera. */
  at: Vector;
  /** Power beside that of a key light. */
  share: number;
}

/** In the order in which a set is lit. */
export const STATIONS = {
  key: { title: 'Key', at: [-0.9, 0.8, 1.1], share: 1 },
  edge: { title: 'Edge', at: [1, 0.7, -1.1], share: 0.8 },
  fill: { title: 'Fill', at: [1.3, 0.35, 0.9], share: 0.3 },
  above: { title: 'Above', at: [0, 1.5, 0.1], share: 0.6 },
  behind: { title: 'Behind', at: [-1, 0.55, -1.2], share: 0.8 },
  below: { title: 'Low front', at: [0.1, -0.3, 1.5], share: 0.3 },
} satisfies Record<string, Station>;

export type StationName = keyof typeof STATIONS;

/** Lamps nearer than this to a station, in sizes of the product, stand there. */
const TAKEN_WITHIN = 0.45;

/** What lamps are placed about. */
export interface Lit {
  center: Vector;
  /** Its longest side. */
  size: number;
  /** Where its camera stands. */
  eye: Vector;
  /** Below this nothing can stand; null without a floor. */
  floor: number | null;
}

/** Where a station is in the world. */
export const stationAt = (name: StationName, lit: Lit): Vector => placeAbout(STATIONS[name].at, lit);

/** A place to the right of, above and before the product as its camera sees it, told in its sizes, in the world. */
export function placeAbout(at: Vector, { center, size, eye, floor }: Lit): Vector {
  const [x, , z] = subtract(eye, center);
  // A camera that looks straight down is as good as one in front.
  const flat = Math.hypot(x, z);
  const [towardsX, towardsZ] = flat > 1e-6 * size ? [x / flat, z / flat] : [0, 1];
  const [right, up, near] = scale(at, size);
  const placed = add(center, [right * towardsZ + near * towardsX, up, near * towardsZ - right * towardsX]);
  return floor === null ? placed : [placed[0], Math.max(floor + size * 0.1, placed[1]), placed[2]];
}

/** The first station where no lamp is; after all of them, the key again. @param lamps where lamps stand in the world */
export function freeStation(lit: Lit, lamps: readonly Vector[]): StationName {
  const names = Object.keys(STATIONS) as StationName[];
  const isFree = (name: StationName) => {
    const at = stationAt(name, lit);
    return lamps.every((lamp) => length(subtract(lamp, at)) > TAKEN_WITHIN * lit.size);
  };
  return names.find(isFree) ?? 'key';
}
