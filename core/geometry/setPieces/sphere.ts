import { arc, lathe, TURN } from './lathe';
import { setPiece, size } from './kind';

/** A ball that lies on the floor. */
export const sphere = setPiece(
  'sphere',
  { radius: size() },
  {
    title: 'Sphere',
    proportions: (part) => ({ radius: part(0.3) }),
    mesh: ({ radius }) => lathe(arc(0, radius, radius, -Math.PI / 2, Math.PI / 2, TURN / 2)),
  },
);
