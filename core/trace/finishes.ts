import {
  FINISH_ABSORPTION,
  FINISH_ALPHA,
  FINISH_BASE,
  FINISH_COAT,
  FINISH_COAT_ALPHA,
  FINISH_COAT_COLOR,
  FINISH_COAT_IOR,
  FINISH_IOR,
  FINISH_METALNESS,
  FINISH_SPECULAR,
  FINISH_THIN,
  FINISH_TINT,
  FINISH_TRANSMISSION,
} from '@zippy/kernel/layout';
import { newFinish, type Finish } from '../document';
import type { FrameState } from '../motion';
import { absorption } from '../optics';

/** What the floor or sweep of the set wears. */
export function floorFinish({ set: { floor } }: FrameState): Finish {
  return newFinish({
    id: 'floor',
    baseColor: [...floor.color],
    specularRoughness: floor.roughness,
    specularWeight: 0.6,
  });
}

/** Writes a finish at an address of the kernel's memory; its tables are made by `prepareFinishes`. */
export function writeFinish(f32: Float32Array, at: number, finish: Finish): void {
  const put = (offset: number, value: number) => (f32[(at + offset) / 4] = value);
  const alpha = (roughness: number) => Math.max(0.002, roughness * roughness);
  f32.set(
    finish.baseColor.map((v) => Math.min(1, v)),
    (at + FINISH_BASE) / 4,
  );
  put(FINISH_METALNESS, finish.baseMetalness);
  put(FINISH_SPECULAR, finish.specularWeight);
  // Glass may be perfectly smooth, which the kernel treats apart; everything else has some width.
  put(FINISH_ALPHA, finish.transmissionWeight > 0.5 ? finish.specularRoughness ** 2 : alpha(finish.specularRoughness));
  put(FINISH_IOR, finish.specularIor);
  put(FINISH_TRANSMISSION, finish.transmissionWeight);
  f32.set(absorption(finish), (at + FINISH_ABSORPTION) / 4);
  put(FINISH_THIN, finish.thinWalled ? 1 : 0);
  put(FINISH_COAT, finish.coatWeight);
  f32.set(
    finish.coatColor.map((v) => Math.min(1, v)),
    (at + FINISH_COAT_COLOR) / 4,
  );
  put(FINISH_COAT_ALPHA, alpha(finish.coatRoughness));
  put(FINISH_COAT_IOR, finish.coatIor);
  const tint = finish.transmissionDepth > 0 && !finish.thinWalled ? [1, 1, 1] : finish.transmissionColor;
  f32.set(
    tint.map((v) => Math.min(1, v)),
    (at + FINISH_TINT) / 4,
  );
}
