import { shells } from './adjacency';
import type { TriangleMesh } from './sweep';
import { weldPositions } from './weld';

/**
 * The faces of a mesh by loose shell: a list of face numbers for each piece that hangs together. A face that is part of
 * several shells belongs to the first.
 * @param wanted faces that are meant; all where it is missing
 */
export function facesByShell(mesh: TriangleMesh, wanted?: readonly number[]): number[][] {
  const { places, count } = weldPositions(mesh.positions, 1e-4);
  const corners = mesh.indices.map((vertex) => places[vertex]!);
  const { regions, count: pieces } = shells(corners, count);
  const meant = wanted && new Set(wanted);
  const owner = new Map<number, number>();
  for (let t = 0; t < regions.length; t++) {
    const face = mesh.faces?.[t] ?? 0;
    if (!owner.has(face) && (!meant || meant.has(face))) owner.set(face, regions[t]!);
  }
  const lists: number[][] = Array.from({ length: pieces }, () => []);
  for (const [face, piece] of owner) lists[piece]!.push(face);
  return lists.filter((list) => list.length > 0);
}

/** Every face of a mesh as a list of its own. */
export function facesAlone(mesh: TriangleMesh, wanted?: readonly number[]): number[][] {
  const faces = new Set(mesh.faces ?? []);
  return (wanted ?? [...faces].sort((a, b) => a - b)).map((face) => [face]);
}
