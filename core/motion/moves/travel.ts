import { place, toggle } from '../../document/properties/property';
import { add, mix, scale } from '../../geometry';
import { moveKind, told } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

/** From one place to another. */
export const travel = moveKind(
  'travel',
  {
    /** Offsets added to the resting place. */
    from: told(place([0, 0, 0])),
    to: told(place([0, 50, 0])),
    /** Cameras and lights: the point looked at travels along. */
    carryTarget: told(toggle(true)),
  },
  {},
  {
    title: 'Travel',
    on: ['nodes', 'cameras', 'lights'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    // As far as is seen, on a product of any size.
    begin: ({ size }) => ({ to: [0, Number((size * 0.2).toPrecision(2)), 0] as [number, number, number] }),
    carry(move, frame, pose) {
      const offset = mix(move.from, move.to, paced(move.pace, movePhase(move, false, frame).within));
      pose.position = add(pose.position, offset);
      if (pose.target && move.carryTarget) pose.target = add(pose.target, offset);
    },
    rehang(move, change) {
      move.from = [...change.way(move.from)];
      move.to = [...change.way(move.to)];
    },
    grow(move, factor) {
      move.from = scale(move.from, factor);
      move.to = scale(move.to, factor);
    },
  },
);
