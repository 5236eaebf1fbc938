import { Grids } from './grids';
import { QUARTER, type ProfilePoint } from './lathe';
import { setPiece, size } from './kind';

/** A floor that curves up into a wall. */
export const sweep = setPiece(
  'sweep',
  { width: size(), depth: size(), height: size(), radius: size() },
  {
    title: 'Curved sweep',
    proportions: (part) => ({ width: part(6), depth: part(5), height: part(3), radius: part(1.5) }),
    mesh({ width, depth, height, radius: wished }) {
      const radius = Math.min(wished, depth, height);
      const made = new Grids();
      const strip = (points: ProfilePoint[]) =>
        made.add(points.length - 1, 1, (u, v) => {
          const [z, y, nz, ny] = points[Math.round(u * (points.length - 1))]!;
          return [(0.5 - v) * width, y, z, 0, ny, nz];
        });
      const back = -depth / 2;
      strip([[depth / 2, 0, 0, 1], [back + radius, 0, 0, 1]]); // prettier-ignore
      strip(
        Array.from({ length: QUARTER * 4 + 1 }, (_, k) => {
          const angle = (k / (QUARTER * 4)) * (Math.PI / 2);
          const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
          return [back + radius - radius * sin, radius - radius * cos, sin, cos];
        }),
      );
      if (height > radius) strip([[back, radius, 1, 0], [back, height, 1, 0]]); // prettier-ignore
      return made.finish();
    },
  },
);
