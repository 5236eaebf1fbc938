// Bodies that take what is within them out of the parts that they may cut.

import {
  CUT_BOX,
  CUT_CYLINDER,
  CUT_KIND,
  CUT_SIZE,
  INSTANCE_CUT,
  INSTANCE_FLAGS,
  SCENE_CUT_COUNT,
  SCENE_CUTS,
} from './layout';
import { surfaceInstance, surfaceX, surfaceY, surfaceZ } from './surface';

/** Whether the part that was hit last is one that cuts go through, and there are any. */
export function mayBeCut(scene: usize): bool {
  if (load<u32>(scene, SCENE_CUT_COUNT) === 0) return false;
  return (load<u32>(surfaceInstance(scene), INSTANCE_FLAGS) & INSTANCE_CUT) !== 0;
}

/** Whether the open surface was cut away where it was met. */
export function isCut(scene: usize): bool {
  if (!mayBeCut(scene)) return false;
  const count = load<u32>(scene, SCENE_CUT_COUNT);
  for (let k: u32 = 0; k < count; k++) {
    if (cuts(<usize>load<u32>(scene, SCENE_CUTS) + <usize>k * CUT_SIZE)) return true;
  }
  return false;
}

function cuts(cut: usize): bool {
  const y = along(cut + 16);
  if (abs(y) > 1) return false;
  const x = along(cut),
    z = along(cut + 32);
  const kind = load<u32>(cut, CUT_KIND);
  if (kind === CUT_BOX) return abs(x) <= 1 && abs(z) <= 1;
  if (kind !== CUT_CYLINDER) unreachable();
  return x * x + z * z <= 1;
}

/** One coordinate of the open surface in the space of a cut, by that row of its matrix. */
function along(row: usize): f32 {
  return load<f32>(row) * surfaceX + load<f32>(row, 4) * surfaceY + load<f32>(row, 8) * surfaceZ + load<f32>(row, 12);
}
