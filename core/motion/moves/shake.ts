import { LIMITS } from '../../document/properties/limits';
import { angle, count, length, number } from '../../document/properties/property';
import { add, quaternionAbout, rotateVector, subtract, type Vector } from '../../geometry';
import { moveKind, told } from './kind';
import { smoothNoise } from './noise';
import { moveEnd } from './phase';
import { spin } from './swing';

/** Unsteady, as by a hand that holds it or a motor that runs in it. */
export const shake = moveKind(
  'shake',
  {
    /** The most by which it, or the way it looks, turns either way. */
    angle: told(angle(0.005, { min: 0, max: 1, step: 0.1 })),
    /** The most by which its place changes either way. */
    shift: told(length(0, { min: 0, max: LIMITS.coordinate, step: 0.5 })),
    /** Frames from one jolt to the next. */
    every: told(number(6, { unit: 'frames', min: 0.5, max: 1000, step: 0.5 })),
    seed: told(count(1, { max: 1_000_000 })),
  },
  {},
  {
    title: 'Shake',
    on: ['cameras', 'nodes', 'lights'],
    cyclic: true,
    pace: 'linear',
    unpaced: true,
    close: () => undefined,
    drives: 'place',
    loops: () => true,
    carry(move, frame, pose) {
      if (frame < move.start || frame >= moveEnd(move)) return;
      const jolts = Math.max(2, Math.round(move.length / move.every));
      const t = (((frame - move.start) % move.length) / move.length) * jolts;
      // A coarse and a fine wave, from -1 to 1 each way, which begins and ends at rest.
      const at = (time: number, of: number) =>
        (2 / 3) * (2 * smoothNoise(time, jolts, move.seed * 16 + of) - 1) +
        (1 / 3) * (2 * smoothNoise(2 * time, 2 * jolts, move.seed * 16 + 8 + of) - 1);
      const wave = (of: number) => (at(t, of) - at(0, of)) / (1 + Math.abs(at(0, of)));
      const turn = (axis: Vector, of: number) => quaternionAbout(axis, move.angle * wave(of));
      const by: Vector = [move.shift * wave(4), move.shift * wave(5), move.shift * wave(6)];
      pose.position = add(pose.position, by);
      if (pose.target) {
        const look = rotateVector(
          rotateVector(subtract(add(pose.target, by), pose.position), turn([0, 1, 0], 1)),
          turn([1, 0, 0], 2),
        );
        pose.target = add(pose.position, look);
        if (pose.lens) pose.lens.roll += 0.5 * move.angle * wave(3);
      } else {
        spin(pose, turn([1, 0, 0], 1));
        spin(pose, turn([0, 1, 0], 2));
        spin(pose, turn([0, 0, 1], 3));
      }
    },
    grow: (move, factor) => void (move.shift *= factor),
  },
);
