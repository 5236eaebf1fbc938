import { angle } from '../../document/properties/property';
import { quaternionAbout } from '../../geometry';
import { ABOUT_CENTER, CENTER, turnAbout } from './center';
import { moveKind, three, told, toldDirection } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

/** Opens or closes a thing about its axis. */
export const hinge = moveKind(
  'hinge',
  {
    axis: toldDirection(),
    from: told(angle(0)),
    to: told(angle(Math.PI / 2)),
  },
  { center: CENTER },
  {
    title: 'Hinge',
    on: ['nodes'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    // About the turning point of the thing itself: that of a door is at its edge.
    begin: ({ axis }) => ({ axis: three(axis) }),
    loops: ({ mirrored }) => mirrored,
    carry(move, frame, pose) {
      const gone = paced(move.pace, movePhase(move, false, frame).within);
      turnAbout(pose, move.center, quaternionAbout(move.axis, move.from + (move.to - move.from) * gone));
    },
    ...ABOUT_CENTER,
  },
);
