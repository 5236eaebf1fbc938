import { LIMITS } from '../../document/properties/limits';
import { angle, length, number } from '../../document/properties/property';
import { add, normalize, quaternionAbout, scale, subtract } from '../../geometry';
import { CENTER } from './center';
import { moveKind, three, told, toldDirection } from './kind';
import { thereAndBack } from './thereAndBack';
import { spin, swing, turnedRuns } from './swing';

/** Carries a camera or light round what it looks at, or anything round a point. */
export const orbit = moveKind(
  'orbit',
  {
    axis: toldDirection(),
    /** From the first to the last frame. */
    angle: told(angle(Math.PI / 2)),
    /** How far along the axis it has come by then. */
    rise: told(length(0, { min: -LIMITS.coordinate, max: LIMITS.coordinate })),
    /** How far away it is by then, of the distance from which it began. */
    away: told(number(1, { unit: '×', min: 0.01, max: 100, step: 0.05 })),
  },
  { center: CENTER },
  {
    title: 'Orbit',
    on: ['cameras', 'lights'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    begin: ({ axis }) => ({ axis: three(axis) }),
    close(move, length) {
      const turns = Math.round(move.angle / (2 * Math.PI));
      if (turns === 0 || Math.abs(move.angle / (2 * Math.PI) - turns) > 0.06) return thereAndBack(move);
      // All the way round: it is back on the frame after the last one.
      Object.assign(move, {
        angle: turns * 2 * Math.PI,
        rise: 0,
        away: 1,
        pace: 'linear',
        repeat: 1,
        length: length + 1,
      });
    },
    carry(move, frame, pose) {
      const gone = turnedRuns(move, false, frame);
      const turn = quaternionAbout(move.axis, move.angle * gone);
      const center = move.center ?? pose.target;
      if (!pose.target) spin(pose, turn);
      if (!center) return;
      swing(pose, center, turn);
      const place = add(pose.position, pose.pivot);
      // Even in share, so that coming nearer looks even too.
      const held = add(center, scale(subtract(place, center), move.away ** gone));
      pose.position = subtract(add(held, scale(normalize(move.axis), move.rise * gone)), pose.pivot);
    },
    grow: (move, factor) => void (move.rise *= factor),
    rehang(move, change) {
      move.axis = [...change.direction(move.axis)];
      if (move.center) move.center = [...change.point(move.center)];
    },
    copied(move, by) {
      if (move.center) move.center = [...add(move.center, by)];
    },
  },
);
