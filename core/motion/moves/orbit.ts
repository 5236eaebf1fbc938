import { type z } from 'zod';
import { angle, place } from '../../document/properties/property';
import { add, quaternionAbout } from '../../geometry';
import { moveKind, told, toldDirection } from './kind';
import { spin, swing, turnedRuns } from './swing';

/** Carries a camera or light round what it looks at, or anything round a point. */
export const orbit = moveKind(
  'orbit',
  {
    axis: toldDirection(),
    /** From the first to the last frame. */
    angle: told(angle(Math.PI / 2)),
  },
  {
    /** Point to orbit; null takes what the camera or light looks at. */
    center: { schema: place([0, 0, 0]).schema.nullable(), default: null },
  } as { center: { schema: z.ZodType<[number, number, number] | null>; default: null } },
  {
    title: 'Orbit',
    on: ['cameras', 'lights'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    begin: ({ axis }) => ({ axis: [axis[0], axis[1], axis[2]] as [number, number, number] }),
    carry(move, frame, pose) {
      const turn = quaternionAbout(move.axis, move.angle * turnedRuns(move, false, frame));
      const center = move.center ?? pose.target;
      if (!pose.target) spin(pose, turn);
      if (center) swing(pose, center, turn);
    },
    rehang(move, change) {
      move.axis = [...change.direction(move.axis)];
      if (move.center) move.center = [...change.point(move.center)];
    },
    copied(move, by) {
      if (move.center) move.center = [...add(move.center, by)];
    },
  },
);
