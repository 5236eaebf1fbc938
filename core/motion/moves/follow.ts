import { idSchema } from '../../document/properties/ids';
import { number, toggle } from '../../document/properties/property';
import { add, scale, type Vector } from '../../geometry';
import { moveKind, told } from './kind';
import { moveEnd } from './phase';

/** Places over which a smoothed way is averaged. */
const SAMPLES = 9;

/** Goes where another thing goes, keeping its distance from it. */
export const follow = moveKind(
  'follow',
  {
    /** Frames by which it is late. */
    delay: told(number(0, { unit: 'frames', min: 0, max: 100_000, step: 1 })),
    /** Frames over which the other's way is evened out. */
    smoothing: told(number(0, { unit: 'frames', min: 0, max: 1000, step: 1 })),
    /** Cameras and lights: what they are aimed at goes along. */
    carryTarget: told(toggle(true)),
  },
  {
    /** The node that is followed, by id. */
    leader: { schema: idSchema.nullable(), default: null as string | null },
  },
  {
    title: 'Follow',
    on: ['nodes', 'cameras', 'lights'],
    cyclic: false,
    pace: 'linear',
    unpaced: true,
    close: () => undefined,
    drives: 'place',
    heeds: ({ leader }) => (leader === null ? [] : [leader]),
    renamed: (move, id) => void (move.leader = move.leader === null ? null : id(move.leader)),
    carry(move, frame, pose, { wayOf }) {
      if (move.leader === null || frame <= move.start) return;
      const at = Math.min(frame, moveEnd(move) - 1) - move.delay;
      const samples = move.smoothing > 0 ? SAMPLES : 1;
      let way: Vector = [0, 0, 0];
      let weights = 0;
      for (let k = 0; k < samples; k++) {
        // A tent over the time before, so that it never moves before the other does.
        const late = samples > 1 ? (k / (samples - 1)) * move.smoothing : 0;
        const weight = samples > 1 ? 1 - Math.abs((2 * k) / (samples - 1) - 1) : 1;
        if (weight === 0) continue;
        const gone = wayOf(move.leader, move.start, Math.max(move.start, at - late));
        if (!gone) return;
        way = add(way, scale(gone, weight));
        weights += weight;
      }
      const by = scale(way, 1 / weights);
      pose.position = add(pose.position, by);
      if (pose.target && move.carryTarget) pose.target = add(pose.target, by);
    },
  },
);
