import { z } from 'zod';
import { idSchema } from '../../document/properties/ids';
import { place } from '../../document/properties/property';
import { moveKind, type FollowedNode } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

const followed = {
  schema: z.object({ node: idSchema, point: place([0, 0, 0]).schema }).nullable(),
  default: null as { node: string; point: [number, number, number] } | null,
};

/** What a camera is sharp at goes from one thing to another, wherever they are. */
export const focusPull = moveKind(
  'focusPull',
  {},
  {
    /** Points of nodes; null is the distance that the camera is sharp at itself. */
    from: followed,
    to: followed,
  },
  {
    title: 'Focus pull',
    on: ['cameras'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    loops: ({ mirrored }) => mirrored,
    heeds: ({ from, to }) => [from, to].flatMap((each) => each?.node ?? []),
    renamed(move, id) {
      if (move.from) move.from.node = id(move.from.node);
      if (move.to) move.to.node = id(move.to.node);
    },
    carry(move, frame, { lens }) {
      if (!lens) return;
      const share = paced(move.pace, movePhase(move, false, frame).within);
      lens.pull = { from: move.from as FollowedNode | null, to: move.to as FollowedNode | null, share };
    },
  },
);
