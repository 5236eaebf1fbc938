import { encode } from 'fast-png';
import { boundsOfPositions, drawParts, IDENTITY, pickFaces, type DrawnPart, type TriangleMesh } from '../geometry';
import type { Model } from './model';
import { modelTransforms } from './summary';

/** Models with more triangles are shown by some of them, so that a picture takes no longer than its file. */
const MOST_DRAWN = 3_000_000;

/** A small PNG of a model that stands upright. */
export function modelPortrait(model: Model, width: number, height: number): Uint8Array<ArrayBuffer> {
  const world = modelTransforms(model);
  let drawn = 0;
  const parts = model.nodes.flatMap((node, k) => {
    if (node.mesh === null) return [];
    const whole = model.meshes[node.mesh]!;
    const mesh = node.faces ? pickFaces(whole, node.faces) : whole;
    drawn += mesh.indices.length / 3;
    if (drawn > MOST_DRAWN) return [];
    const color = model.finishes[node.finish ?? -1]?.values.baseColor ?? [0.5, 0.5, 0.5];
    return [{ mesh, bounds: boundsOfPositions(mesh.positions), transform: world[k]!, color: [...color] as const }];
  });
  return pictureOf(parts, width, height);
}

/** A small PNG of one mesh. */
export const meshPortrait = (mesh: TriangleMesh, width: number, height: number): Uint8Array<ArrayBuffer> =>
  pictureOf(
    [{ mesh, bounds: boundsOfPositions(mesh.positions), transform: IDENTITY, color: [0.55, 0.55, 0.55] }],
    width,
    height,
  );

function pictureOf(parts: DrawnPart[], width: number, height: number): Uint8Array<ArrayBuffer> {
  const data = drawParts(parts, width, height);
  return new Uint8Array(encode({ width, height, data, channels: 4 }));
}
