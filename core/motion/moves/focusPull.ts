import { FOLLOWED, renameFollowed } from './followed';
import { moveKind } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

/** What a camera is sharp at goes from one thing to another, wherever they are. */
export const focusPull = moveKind(
  'focusPull',
  {},
  {
    /** Points of nodes; null is the distance that the camera is sharp at itself. */
    from: FOLLOWED,
    to: FOLLOWED,
  },
  {
    title: 'Focus pull',
    on: ['cameras'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    loops: ({ mirrored }) => mirrored,
    heeds: ({ from, to }) => [from, to].flatMap((each) => each?.node ?? []),
    renamed: renameFollowed,
    carry(move, frame, { lens }) {
      if (!lens) return;
      const share = paced(move.pace, movePhase(move, false, frame).within);
      lens.pull = { from: move.from, to: move.to, share };
    },
  },
);
