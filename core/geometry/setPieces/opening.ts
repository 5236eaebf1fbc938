import { choice } from '../../document/properties/property';
import type { Transform } from '../transform';
import { Grids } from './grids';
import { setPiece, size } from './kind';
import { lathe } from './lathe';

/** A hole in the floor with walls and a bottom, below its origin: a hatch through which something comes up. */
export const opening = setPiece(
  'opening',
  { width: size(), length: size(), depth: size(), shape: choice(['rectangular', 'round'], 'rectangular') },
  {
    title: 'Opening',
    proportions: (part) => ({
      width: part(1.2),
      length: part(1.2),
      depth: part(1.2),
      shape: 'rectangular' as const,
    }),
    mesh({ width, length, depth, shape }) {
      if (shape === 'round') {
        const round = lathe([
          [[1, -depth, -1, 0], [1, 0, -1, 0]],
          [[0, -depth, 0, 1], [1, -depth, 0, 1]],
        ]); // prettier-ignore
        return stretched(round, width / 2, length / 2);
      }
      const [x, z] = [width / 2, length / 2];
      const made = new Grids();
      made.add(1, 1, (u, v) => [-x, (v - 1) * depth, (u * 2 - 1) * z, 1, 0, 0]);
      made.add(1, 1, (u, v) => [x, (v - 1) * depth, (1 - u * 2) * z, -1, 0, 0]);
      made.add(1, 1, (u, v) => [(1 - u * 2) * x, (v - 1) * depth, -z, 0, 0, 1]);
      made.add(1, 1, (u, v) => [(u * 2 - 1) * x, (v - 1) * depth, z, 0, 0, -1]);
      made.add(1, 1, (u, v) => [(u * 2 - 1) * x, -depth, (1 - v * 2) * z, 0, 1, 0]);
      return made.finish();
    },
    cut({ width, length, depth, shape }) {
      // A little above its rim, so that the ground there is gone however it was rounded.
      const over = depth / 100;
      const body: Transform = [width / 2, 0, 0, 0, 0, (depth + over) / 2, 0, (over - depth) / 2, 0, 0, length / 2, 0];
      return { kind: shape === 'round' ? ('cylinder' as const) : ('box' as const), body };
    },
  },
);

/** A body of radius 1 made elliptic; its normals keep standing on it. */
function stretched(mesh: ReturnType<typeof lathe>, x: number, z: number): ReturnType<typeof lathe> {
  const [positions, normals] = [mesh.positions.slice(), mesh.normals!.slice()];
  for (let k = 0; k < positions.length; k += 3) {
    positions[k]! *= x;
    positions[k + 2]! *= z;
    const [nx, ny, nz] = [normals[k]! / x, normals[k + 1]! * 1, normals[k + 2]! / z];
    const long = Math.hypot(nx, ny, nz) || 1;
    normals.set([nx / long, ny / long, nz / long], k);
  }
  return { ...mesh, positions, normals };
}
