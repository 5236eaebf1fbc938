import * as z from 'zod';
import { idSchema } from '../../document/properties/ids';
import { LIMITS } from '../../document/properties/limits';
import { number, place, share, toggle } from '../../document/properties/property';
import { add, scale } from '../../geometry';
import { moveKind, three, told } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

/** Takes what lies below a thing apart, or puts it together again. */
export const explode = moveKind(
  'explode',
  {
    /** How far, of the ways that were found. */
    distance: told(number(1, { unit: '×', min: -100, max: 100, step: 0.1 })),
    /** Part of the time by which the last one begins after the first. */
    stagger: told(share(0.4)),
    /** Begins apart and ends together. */
    gathers: told(toggle(false)),
  },
  {
    /** What is carried, in order, each on its way in the space of what it hangs under. */
    ways: {
      schema: z.array(z.object({ node: idSchema, way: place([0, 0, 0]).schema })).max(LIMITS.exploded),
      default: [] as { node: string; way: [number, number, number] }[],
    },
  },
  {
    title: 'Explode',
    on: ['nodes'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    begin: ({ apart }) => ({ ways: apart.map(({ node, way }) => ({ node, way: three(way) })) }),
    loops: ({ mirrored }) => mirrored,
    among: ({ ways }) => ways.map(({ node }) => node),
    renamed: (move, id) => void (move.ways = move.ways.map(({ node, way }) => ({ node: id(node), way }))),
    carry(move, frame, pose, { id }) {
      const k = move.ways.findIndex(({ node }) => node === id);
      if (k < 0) return;
      const { within } = movePhase(move, false, frame);
      const waits = move.ways.length > 1 ? (move.stagger * k) / (move.ways.length - 1) : 0;
      const own = move.stagger < 1 ? (within - waits) / (1 - move.stagger) : within > waits ? 1 : 0;
      const gone = paced(move.pace, own);
      pose.position = add(pose.position, scale(move.ways[k]!.way, move.distance * (move.gathers ? 1 - gone : gone)));
    },
    grow: (move, factor) => void (move.distance *= factor),
  },
);
