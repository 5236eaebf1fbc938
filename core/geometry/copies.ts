import { multiplyQuaternions, quaternionAbout, quaternionFromTurn, rotateVector, type Quaternion } from './rotation';
import { frameAlong, normalize, scale as scaled, type Vector } from './vector';

/** How copies are laid out, as the document keeps it; see there for what the numbers mean. */
export interface CopyLayout {
  kind: 'line' | 'grid' | 'ring';
  count: number;
  counts: Vector;
  spacing: Vector;
  radius: number;
  axis: Vector;
  angle: number;
  facing: boolean;
  seed: number;
  varyTurn: Vector;
  varyOffset: Vector;
  varyScale: number;
}

/** Where one copy stands against the node it is a copy of. */
export interface CopyPlace {
  /** Millimetres in the space of the node's parent. */
  offset: Vector;
  /** About the node's turning point, outside of the node's own turn. */
  turn: Quaternion;
  /** The random turn, inside of the node's own. */
  vary: Quaternion;
  scale: number;
}

/** The places of all copies; that of a line or grid begins with the node's own. */
export function copyPlaces(copies: CopyLayout): CopyPlace[] {
  return regularPlaces(copies).map(({ offset, turn }, k) => {
    const random = (channel: number) => signedNoise(copies.seed, k, channel);
    return {
      offset: offset.map((v, axis) => v + copies.varyOffset[axis]! * random(axis)) as unknown as Vector,
      turn,
      vary: quaternionFromTurn(copies.varyTurn.map((v, axis) => v * random(3 + axis)) as unknown as Vector),
      scale: 1 + copies.varyScale * random(6),
    };
  });
}

/** Of one node; the document allows no more, and what is being typed shall not fill the memory. */
const MOST_COPIES = 10_000;

/** How many copies there are, without reckoning their places. */
export const copyCount = ({ kind, count, counts }: CopyLayout): number =>
  Math.min(MOST_COPIES, kind === 'grid' ? counts[0] * counts[1] * counts[2] : count);

function regularPlaces(copies: CopyLayout): { offset: Vector; turn: Quaternion }[] {
  const { kind, counts, spacing, ...ring } = copies;
  const count = copyCount(copies);
  const still: Quaternion = [0, 0, 0, 1];
  const at = (i: number, j: number, k: number) => ({
    offset: [i * spacing[0], j * spacing[1], k * spacing[2]] as Vector,
    turn: still,
  });
  switch (kind) {
    case 'line':
      return Array.from({ length: count }, (_, k) => at(k, k, k));
    case 'grid': {
      const [across, up] = counts;
      const all = Array.from({ length: count }, (_, n) => n);
      return all.map((n) => at(n % across, Math.floor(n / across) % up, Math.floor(n / (across * up))));
    }
    case 'ring': {
      const axis = normalize(ring.axis);
      const closed = Math.abs(ring.angle) >= 2 * Math.PI - 1e-6;
      const step = ring.angle / Math.max(1, closed ? count : count - 1);
      const arm = scaled(frameAlong(axis).x, ring.radius);
      return Array.from({ length: count }, (_, k) => {
        const turn = quaternionAbout(axis, k * step);
        return { offset: rotateVector(arm, turn), turn: ring.facing ? turn : still };
      });
    }
  }
}

/** An even random number from -1 to 1 that hangs on its arguments only (a hash of 32 bits, its steps as in MurmurHash3). */
export function signedNoise(seed: number, copy: number, channel: number): number {
  let h = Math.imul(seed + 1, 0x9e3779b1) ^ Math.imul(copy + 1, 0x85ebca6b) ^ Math.imul(channel + 1, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1;
}

/** First the random turn, then the node's own with what moves add, then that of the copy. */
export const copyTurn = (place: CopyPlace, own: Quaternion): Quaternion =>
  multiplyQuaternions(multiplyQuaternions(place.turn, own), place.vary);
