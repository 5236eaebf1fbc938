import { length, toggle } from '../../document/properties/property';
import { add, scale, subtract } from '../../geometry';
import { moveKind, told } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

const focal = (standard: number) => told(length(standard, { min: 4, max: 2000, step: 1 }));

/** The focal length goes from one to another; kept in size, the camera comes or goes so that what it looks at does not grow. */
export const lensPush = moveKind(
  'lensPush',
  { from: focal(50), to: focal(85), keepSize: told(toggle(false)) },
  {},
  {
    title: 'Lens push',
    on: ['cameras'],
    cyclic: false,
    pace: 'ease',
    drives: 'place',
    begin: ({ camera }) =>
      camera ? { from: camera.focalLength, to: Math.min(2000, Math.round(camera.focalLength * 1.6)) } : {},
    loops: ({ mirrored }) => mirrored,
    carry(move, frame, pose) {
      if (!pose.lens || !pose.target) return;
      const gone = paced(move.pace, movePhase(move, false, frame).within);
      // Even in share: what is seen grows as much in every frame.
      const grown = (move.to / move.from) ** gone;
      pose.lens.focalLength = move.from * grown;
      if (!move.keepSize) return;
      const back = subtract(pose.position, pose.target);
      pose.position = add(pose.target, scale(back, grown));
      pose.lens.focusDistance *= grown;
    },
  },
);
