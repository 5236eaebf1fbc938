// What a ray meets that meets no part: surroundings, suns, and for the camera what is seen behind.

import {
  BEHIND_COLOR,
  BEHIND_PICTURE,
  BEHIND_PLATE,
  BEHIND_SURROUNDINGS,
  BEHIND_TRANSPARENT,
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_SEEN,
  LIGHT_SIZE,
  SCENE_BEHIND,
  SCENE_BEHIND_COLOR,
  SCENE_BEHIND_FIT,
  SCENE_BEHIND_PICTURE,
  SCENE_HEIGHT,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHTS,
  SCENE_LOCAL_LIGHTS,
  SCENE_WIDTH,
} from '../layout';
import { lightB, lightG, lightGroup, lightPdf, lightR, sunAt } from '../light';
import { meetBehind, meetSky, skyB, skyChosenPdf, skyG, skyR } from '../sky';
import { lookUp, texelB, texelG, texelR } from '../texture';
import { add, coverPixel, filmX, filmY } from './outputs';
import { meetWeight } from './vertex';

const ONE: f32 = 1;

/** The plate where the camera's ray began on the picture, as much of it as fills the frame. */
function lookUpPlate(scene: usize): void {
  const plate = <usize>load<u32>(scene, SCENE_BEHIND_PICTURE);
  const across = <f32>load<i32>(plate),
    down = <f32>load<i32>(plate, 4);
  const shownX = load<f32>(scene, SCENE_BEHIND_FIT),
    shownY = load<f32>(scene, SCENE_BEHIND_FIT + 4);
  // Half a pixel of the coarsest level that is read: nearer to an edge, what lies beyond would be blended in.
  const step = (shownY * down) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const edge = max<f32>(0.5, step);
  const edgeX = min<f32>(0.5, edge / across),
    edgeY = min<f32>(0.5, edge / down);
  const u = <f32>0.5 + shownX * (filmX / <f32>load<i32>(scene, SCENE_WIDTH) - <f32>0.5);
  const v = <f32>0.5 + shownY * (filmY / <f32>load<i32>(scene, SCENE_HEIGHT) - <f32>0.5);
  lookUp(
    plate,
    max<f32>(edgeX, min<f32>(ONE - edgeX, u)),
    max<f32>(edgeY, min<f32>(ONE - edgeY, v)),
    step / max<f32>(across, down),
  );
}

/** Adds what a ray finds that leaves the scene. `straight` is one that comes from the camera. */
export function meetSurroundings(scene: usize, dx: f32, dy: f32, dz: f32, straight: bool): void {
  const behind = load<u32>(scene, SCENE_BEHIND);
  if (straight && behind === BEHIND_TRANSPARENT) return;
  if (straight) coverPixel();
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  const sky = count - 1;
  const group = load<u32>(lights + <usize>sky * LIGHT_SIZE, LIGHT_GROUP);
  if (straight && behind === BEHIND_COLOR) {
    add(
      group,
      load<f32>(scene, SCENE_BEHIND_COLOR),
      load<f32>(scene, SCENE_BEHIND_COLOR + 4),
      load<f32>(scene, SCENE_BEHIND_COLOR + 8),
    );
  } else if (straight && behind === BEHIND_PICTURE) {
    meetBehind(scene, dx, dy, dz);
    add(group, skyR, skyG, skyB);
  } else if (straight && behind === BEHIND_PLATE) {
    lookUpPlate(scene);
    add(
      group,
      load<f32>(scene, SCENE_BEHIND_COLOR) * texelR,
      load<f32>(scene, SCENE_BEHIND_COLOR + 4) * texelG,
      load<f32>(scene, SCENE_BEHIND_COLOR + 8) * texelB,
    );
  } else {
    if (straight && behind !== BEHIND_SURROUNDINGS) unreachable();
    meetSky(scene, dx, dy, dz);
    const r = skyR,
      g = skyG,
      b = skyB;
    const w = meetWeight(scene, <i32>sky, skyChosenPdf);
    add(group, r * w, g * w, b * w);
  }
  for (let k = load<u32>(scene, SCENE_LOCAL_LIGHTS); k < sky; k++) {
    if (straight && !(load<u32>(lights + <usize>k * LIGHT_SIZE, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
    if (!sunAt(scene, k, dx, dy, dz)) continue;
    const r = lightR,
      g = lightG,
      b = lightB,
      sun = lightGroup;
    const w = meetWeight(scene, <i32>k, lightPdf);
    add(sun, r * w, g * w, b * w);
  }
}
