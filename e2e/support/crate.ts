import { writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A box as an STL of that name, `size` millimetres wide, half as high and deep. @returns its path */
export function crateIn(folder: string, name: string, size: number): string {
  const corner = (k: number) => `vertex ${k & 1 ? size : 0} ${k & 2 ? size / 2 : 0} ${k & 4 ? size / 2 : 0}\n`;
  const triangles = [[0, 2, 1], [1, 2, 3], [4, 5, 6], [5, 7, 6], [0, 1, 4], [1, 5, 4], [2, 6, 3], [3, 6, 7], [0, 4, 2], [2, 4, 6], [1, 3, 5], [3, 7, 5]]; // prettier-ignore
  const facets = triangles.map(
    (each) => `facet normal 0 0 0\nouter loop\n${each.map(corner).join('')}endloop\nendfacet\n`,
  );
  const path = join(folder, `${name}.stl`);
  writeFileSync(path, `solid ${name}\n${facets.join('')}endsolid ${name}\n`);
  return path;
}
