import type { z } from 'zod';
import { place } from '../../document/properties/property';
import { add, type Quaternion, type Vector } from '../../geometry';
import type { Pose, SpaceChange } from './kind';
import { spin, swing } from './swing';

/** What something turns about, in the space of what the target hangs under; null is its own turning point, or what it is aimed at. */
export const CENTER = { schema: place([0, 0, 0]).schema.nullable(), default: null } as {
  schema: z.ZodType<[number, number, number] | null>;
  default: null;
};

/** Turns a thing, and carries it round a point where that is not its own. */
export function turnAbout(pose: Pose, center: Vector | null, turn: Quaternion): void {
  spin(pose, turn);
  if (center) swing(pose, center, turn);
}

interface Turning {
  axis: [number, number, number];
  center: [number, number, number] | null;
}

/** What becomes of the axis and the centre of a move when its target gets another place. */
export const ABOUT_CENTER = {
  rehang(move: Turning, change: SpaceChange): void {
    move.axis = [...change.direction(move.axis)];
    if (move.center) move.center = [...change.point(move.center)];
  },
  copied(move: Turning, by: Vector, turned: (axis: Vector) => Vector): void {
    move.axis = [...turned(move.axis)];
    if (move.center) move.center = [...add(move.center, by)];
  },
};
