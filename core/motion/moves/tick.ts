import { angle, number, share } from '../../document/properties/property';
import { quaternionAbout } from '../../geometry';
import { ABOUT_CENTER, CENTER, turnAbout } from './center';
import { moveKind, three, told, toldDirection } from './kind';
import { settled } from './paces';

/** Turns a thing step by step, like the hand of a clock or a dial with catches. */
export const tick = moveKind(
  'tick',
  {
    axis: toldDirection(),
    /** Of one step. */
    angle: told(angle(Math.PI / 30)),
    /** Frames from one step to the next. */
    every: told(number(24, { unit: 'frames', min: 0.1, max: 100_000, step: 1 })),
    /** Part of that in which it moves; 0 jumps. */
    moving: told(share(0.3)),
    /** 0 stops dead, 1 swings past and back. */
    swing: told(share(0.5)),
  },
  { center: CENTER },
  {
    title: 'Tick',
    on: ['nodes'],
    cyclic: true,
    pace: 'linear',
    unpaced: true,
    drives: 'place',
    begin: ({ axis }) => ({ axis: three(axis) }),
    loops(move) {
      const turns = (Math.round((move.length * move.repeat) / move.every) * move.angle) / (2 * Math.PI);
      return Math.abs(turns - Math.round(turns)) < 1e-6;
    },
    close(move) {
      const frames = move.length * move.repeat;
      const steps = Math.max(1, Math.round(frames / move.every));
      const turns = Math.max(1, Math.round((steps * Math.abs(move.angle)) / (2 * Math.PI)));
      move.every = frames / steps;
      move.angle = (Math.sign(move.angle) || 1) * ((turns * 2 * Math.PI) / steps);
    },
    carry(move, frame, pose) {
      turnAbout(pose, move.center, quaternionAbout(move.axis, move.angle * stepsAt(move, frame)));
    },
    ...ABOUT_CENTER,
  },
);

interface Ticking {
  start: number;
  length: number;
  repeat: number;
  mirrored: boolean;
  every: number;
  moving: number;
  swing: number;
}

/** Steps done at a frame. Each rests first and moves at its end; to and fro, the second half of a run takes them back. */
function stepsAt({ start, length, repeat, mirrored, every, moving, swing }: Ticking, frame: number): number {
  const passed = Math.min(length * repeat, Math.max(0, frame - start));
  const inRun = passed % length;
  const at = mirrored ? Math.min(inRun, length - inRun) : passed;
  // A step is over when its time is, whatever rounding says.
  const k = Math.floor(at / every + 1e-9);
  const within = at / every - k;
  const u = moving > 0 ? (within - (1 - moving)) / moving : 0;
  return k + (u > 0 ? settled(u, swing) : 0);
}
