import { LIMITS } from '../../document/properties/limits';
import { angle, count, length, number } from '../../document/properties/property';
import { add, normalize, quaternionAbout, scale } from '../../geometry';
import { moveKind, told, toldDirection } from './kind';
import { hashed } from './noise';
import { moveEnd } from './phase';
import { spin } from './swing';

/** Hovers: up and down and gently about, without end. */
export const float = moveKind(
  'float',
  {
    /** Along which it rises. */
    axis: toldDirection(),
    /** From its lowest to its highest place. */
    height: told(length(20, { min: 0, max: LIMITS.coordinate })),
    /** The most by which it leans either way. */
    lean: told(angle(0.05, { min: 0, max: Math.PI })),
    /** Frames of one rise and fall; as many whole ones are made as fit. */
    period: told(number(72, { unit: 'frames', min: 1, max: LIMITS.framesPerShot, step: 1 })),
    seed: told(count(1, { max: 1_000_000 })),
  },
  {},
  {
    title: 'Float',
    on: ['nodes', 'cameras', 'lights'],
    cyclic: true,
    pace: 'linear',
    unpaced: true,
    close: () => undefined,
    drives: 'place',
    begin: ({ size }) => ({ height: Number((size * 0.06).toPrecision(2)) }),
    loops: () => true,
    carry(move, frame, pose) {
      if (frame <= move.start || frame >= moveEnd(move)) return;
      const swings = Math.max(1, Math.round(move.length / move.period));
      const t = ((frame - move.start) / move.length) * swings * 2 * Math.PI;
      pose.position = add(pose.position, scale(normalize(move.axis), (move.height / 2) * Math.sin(t)));
      if (pose.target || move.lean === 0) return;
      // Leans that begin and end upright, each in a rhythm of its own that closes with the others.
      const leaning = (of: number, rounds: number) => {
        const phase = 2 * Math.PI * hashed(of, 1 << 20, move.seed * 16);
        return move.lean * (Math.sin((t / swings) * rounds + phase) - Math.sin(phase)) * 0.5;
      };
      spin(pose, quaternionAbout([1, 0, 0], leaning(1, swings)));
      spin(pose, quaternionAbout([0, 0, 1], leaning(2, Math.max(1, swings - 1))));
    },
    rehang: (move, change) => void (move.axis = [...change.direction(move.axis)]),
    copied: (move, _by, turned) => void (move.axis = [...turned(move.axis)]),
    grow: (move, factor) => void (move.height *= factor),
  },
);
