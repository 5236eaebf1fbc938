import { LIMITS } from '../limits';
import { angle, count, number, place, share, still, toggle, unseen, type Property, type Table } from './property';

/** A move is the same over time, and the tracer sees only what it does. */
const told = <P extends Property>(of: P): P => unseen(still(of));
const direction = () => told({ ...place([0, 1, 0]), step: 0.1 });

/** What all moves have. */
export const MOVE = {
  start: told(number(1, { min: -1e6, max: 1e6 })),
  /** Frames of one run. */
  length: told(number(96, { unit: 'frames', min: 1, max: LIMITS.framesPerShot })),
  /** How many runs follow one another. */
  repeat: told(count(1, { unit: '×', min: 1, max: 100_000 })),
  /** Every run goes there and back. */
  mirrored: told(toggle(false)),
} satisfies Table;

export const MOVES = {
  turntable: {
    axis: direction(),
    turns: told(number(1, { unit: 'turns', step: 0.25 })),
    /** At the first frame. */
    startAngle: told(angle(0)),
  },
  orbit: {
    axis: direction(),
    /** From the first to the last frame. */
    angle: told(angle(Math.PI / 2)),
  },
  travel: {
    /** Offsets added to the resting place. */
    from: told(place([0, 0, 0])),
    to: told(place([0, 50, 0])),
    /** Cameras and lights: the point looked at travels along. */
    carryTarget: told(toggle(true)),
  },
  ramp: {},
  blink: {
    low: told(number(0, { step: 0.05 })),
    high: told(number(1, { step: 0.05 })),
    /** Blinks in one run. */
    count: told(count(3, { min: 1, max: 10_000 })),
    /** Part of each blink that is on. */
    duty: told(share(0.5)),
    /** 0 switches hard, 1 swells like a breath. */
    softness: told(share(0.2)),
  },
} satisfies Record<string, Table>;
