// Shading points: all that a map can go by at a place of a surface. A path keeps the one of its vertex while light samples open
// others on their way, so each has a room of its own. See POINT_… of the layout.

import {
  INSTANCE_HASH,
  POINT_COVERED,
  POINT_NORMAL,
  POINT_OBJECT,
  POINT_PART,
  POINT_PLACE,
  POINT_SIZE,
  POINT_TIME,
  POINT_U,
  POINT_V,
  POINT_WIDTH,
} from './layout';
import { shutterTime } from './motion';
import {
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

/** Keeps the open surface with its coordinates, after `openTexture`. @param width mm of it that a pixel covers */
export function keepPoint(at: usize, instance: usize, width: f32): void {
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
}
