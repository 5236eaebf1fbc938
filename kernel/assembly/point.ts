// Shading points: all that a map can go by at a place of a surface. A path keeps the one of its vertex while light samples open
// others on their way, so each has a room of its own. See POINT_… of the layout.

import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasisAlong } from './basis';
import {
  INSTANCE_HASH,
  INSTANCE_MESH,
  POINT_ACROSS,
  POINT_ACROSS_OBJECT,
  POINT_COVERED,
  POINT_FACING,
  POINT_MESH,
  POINT_NORMAL,
  POINT_OBJECT,
  POINT_PART,
  POINT_PER_LENGTH,
  POINT_PLACE,
  POINT_SIZE,
  POINT_TANGENT,
  POINT_TANGENT_OBJECT,
  POINT_TIME,
  POINT_U,
  POINT_V,
  POINT_WIDTH,
} from './layout';
import { instanceMatrices, shutterTime } from './motion';
import {
  mirrored,
  objectX,
  objectY,
  objectZ,
  smoothX,
  smoothY,
  smoothZ,
  surfaceU,
  surfaceV,
  surfaceX,
  surfaceY,
  surfaceZ,
  tangentX,
  tangentY,
  tangentZ,
  texturePerLength,
} from './surface';

/** Where the path is, where a light sample passes a wall, and where on a luminous part it begins. */
export let pointOfVertex: usize = 0;
export let pointOfWall: usize = 0;
export let pointOfLamp: usize = 0;

/** Gives this worker room for the three. */
export function setPointRoom(at: usize): void {
  pointOfVertex = at;
  pointOfWall = at + POINT_SIZE;
  pointOfLamp = at + 2 * POINT_SIZE;
}

/**
 * Keeps the open surface with its coordinates, after `openTexture`.
 * @param width mm of it that a pixel covers @param facing cosine of the way it is looked at
 */
export function keepPoint(scene: usize, at: usize, instance: usize, width: f32, facing: f32): void {
  store<f32>(at, surfaceX, POINT_PLACE);
  store<f32>(at, surfaceY, POINT_PLACE + 4);
  store<f32>(at, surfaceZ, POINT_PLACE + 8);
  store<f32>(at, objectX, POINT_OBJECT);
  store<f32>(at, objectY, POINT_OBJECT + 4);
  store<f32>(at, objectZ, POINT_OBJECT + 8);
  store<f32>(at, smoothX, POINT_NORMAL);
  store<f32>(at, smoothY, POINT_NORMAL + 4);
  store<f32>(at, smoothZ, POINT_NORMAL + 8);
  store<f32>(at, surfaceU, POINT_U);
  store<f32>(at, surfaceV, POINT_V);
  store<f32>(at, width * texturePerLength, POINT_COVERED);
  store<f32>(at, width, POINT_WIDTH);
  store<f32>(at, shutterTime, POINT_TIME);
  store<u32>(at, load<u32>(instance, INSTANCE_HASH), POINT_PART);
  store<u32>(at, load<u32>(instance, INSTANCE_MESH), POINT_MESH);
  store<f32>(at, min<f32>(1, abs(facing)), POINT_FACING);
  store<f32>(at, texturePerLength, POINT_PER_LENGTH);
  makeBasisAlong(smoothX, smoothY, smoothZ, tangentX, tangentY, tangentZ);
  // Mirrored coordinates have v against n × u.
  const side: f32 = mirrored ? -1 : 1;
  const toObject = instanceMatrices(scene, instance);
  keepWay(at, POINT_TANGENT, POINT_TANGENT_OBJECT, toObject, basisXx, basisXy, basisXz);
  keepWay(at, POINT_ACROSS, POINT_ACROSS_OBJECT, toObject, side * basisYx, side * basisYy, side * basisYz);
}

/** Keeps a way along the surface in the world and in the part's own space. */
function keepWay(at: usize, world: usize, object: usize, m: usize, x: f32, y: f32, z: f32): void {
  store<f32>(at + world, x);
  store<f32>(at + world, y, 4);
  store<f32>(at + world, z, 8);
  store<f32>(at + object, load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z);
  store<f32>(at + object, load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z, 4);
  store<f32>(at + object, load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z, 8);
}
