import { moveKind } from './kind';
import { FOLLOWED, renameFollowed } from './followed';
import { paced } from './paces';
import { movePhase } from './phase';

/** What a camera or light is aimed at goes from one thing to another, wherever they are. */
export const aimPull = moveKind(
  'aimPull',
  {},
  {
    /** Points of nodes; null is what it is aimed at itself. */
    from: FOLLOWED,
    to: FOLLOWED,
  },
  {
    title: 'Pan across',
    on: ['cameras', 'lights'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    loops: ({ mirrored }) => mirrored,
    heeds: ({ from, to }) => [from, to].flatMap((each) => each?.node ?? []),
    renamed: renameFollowed,
    carry(move, frame, pose) {
      const share = paced(move.pace, movePhase(move, false, frame).within);
      pose.aim = { from: move.from, to: move.to, share };
    },
  },
);
