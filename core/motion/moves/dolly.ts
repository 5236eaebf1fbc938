import { LIMITS } from '../../document/properties/limits';
import { length, toggle } from '../../document/properties/property';
import { add, cross, length as lengthOf, normalize, scale, subtract, type Vector } from '../../geometry';
import { moveKind, told } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

const way = () => told(length(0, { min: -LIMITS.coordinate, max: LIMITS.coordinate }));

/** A camera or light that travels in its own directions: push and pull, truck, crane. */
export const dolly = moveKind(
  'dolly',
  {
    /** Towards what it is aimed at, to its right, and up. */
    forward: way(),
    right: way(),
    up: way(),
    /** It goes on looking at the same point; otherwise it looks the same way. */
    keepAim: told(toggle(true)),
    /** It ends where it stands, instead of beginning there. */
    arrives: told(toggle(false)),
  },
  {},
  {
    title: 'Dolly',
    on: ['cameras', 'lights'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    loops: ({ mirrored }) => mirrored,
    carry(move, frame, pose) {
      if (!pose.target) return;
      const gone = paced(move.pace, movePhase(move, false, frame).within) - (move.arrives ? 1 : 0);
      const forward = normalize(subtract(pose.target, pose.position));
      const level = cross(forward, [0, 1, 0]);
      // Straight down there is no right of its own.
      const right: Vector = lengthOf(level) > 1e-6 ? normalize(level) : [1, 0, 0];
      const by = add(add(scale(forward, move.forward * gone), scale(right, move.right * gone)), [0, move.up * gone, 0]);
      pose.position = add(pose.position, by);
      if (!move.keepAim) pose.target = add(pose.target, by);
    },
    grow(move, factor) {
      move.forward *= factor;
      move.right *= factor;
      move.up *= factor;
    },
  },
);
