import * as z from 'zod';
import { angle, number } from '../../document/properties/property';
import { quaternionAbout } from '../../geometry';
import { ABOUT_CENTER, CENTER, turnAbout } from './center';
import { moveKind, three, told, toldDirection } from './kind';
import { swing, turnedRuns } from './swing';

/** Turns a thing about its axis, evenly. */
export const turntable = moveKind(
  'turntable',
  {
    axis: toldDirection(),
    turns: told(number(1, { unit: 'turns', step: 0.25 })),
    /** At the first frame. */
    startAngle: told(angle(0)),
  },
  {
    direction: { schema: z.union([z.literal(1), z.literal(-1)]), default: 1 as 1 | -1 },
    center: CENTER,
  },
  {
    title: 'Turntable',
    on: ['nodes'],
    cyclic: true,
    pace: 'linear',
    drives: 'place',
    begin: ({ axis, center }) => ({ axis: three(axis), center: center && three(center) }),
    loops: ({ turns, repeat }) => (turns * repeat) % 1 === 0,
    close(move) {
      move.turns = Math.max(1, Math.round(move.turns * move.repeat)) / move.repeat;
      move.pace = 'linear';
    },
    carry(move, frame, pose) {
      const turned = turnedRuns(move, true, frame);
      const turn = quaternionAbout(move.axis, move.startAngle + move.direction * move.turns * 2 * Math.PI * turned);
      if (pose.target) swing(pose, pose.target, turn);
      else turnAbout(pose, move.center, turn);
    },
    ...ABOUT_CENTER,
  },
);
