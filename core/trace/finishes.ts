import * as L from '@zippy/kernel/layout';
import { matteId } from '../develop';
import { newFinish, type Finish } from '../document';
import type { FrameState } from '../motion';
import { dispersion, insideOf } from '../optics';

/** What the floor or sweep of the set wears. */
export function floorFinish({ set: { floor } }: FrameState): Finish {
  return newFinish({
    id: 'floor',
    name: 'Floor',
    baseColor: [...floor.color],
    specularRoughness: floor.roughness,
    specularWeight: 0.6,
  });
}

/** Writes a finish at an address of the kernel's memory. */
export function writeFinish(f32: Float32Array, u32: Uint32Array, at: number, finish: Finish): void {
  const put = (offset: number, value: number) => (f32[(at + offset) / 4] = value);
  const putColor = (offset: number, color: readonly number[]) => f32.set(color, (at + offset) / 4);
  const unit = (color: readonly number[]) => color.map((v) => Math.min(1, v));
  u32.fill(0, at / 4, (at + L.FINISH_SIZE) / 4);
  const inside = insideOf(finish);
  putColor(L.FINISH_BASE, unit(finish.baseColor.map((v) => v * finish.baseWeight)));
  put(L.FINISH_METALNESS, finish.baseMetalness);
  put(L.FINISH_DIFFUSE_ROUGHNESS, finish.baseDiffuseRoughness);
  put(L.FINISH_SPECULAR, finish.specularWeight);
  putColor(L.FINISH_SPECULAR_COLOR, unit(finish.specularColor));
  put(L.FINISH_ROUGHNESS, finish.specularRoughness);
  put(L.FINISH_ANISOTROPY, Math.min(0.98, finish.specularRoughnessAnisotropy));
  put(L.FINISH_ROTATION, finish.specularRotation);
  put(L.FINISH_IOR, finish.specularIor);
  put(L.FINISH_TRANSMISSION, finish.transmissionWeight);
  putColor(L.FINISH_TINT, unit(inside.tint));
  put(L.FINISH_THIN, finish.thinWalled ? 1 : 0);
  put(L.FINISH_CAUCHY, dispersion(finish));
  put(L.FINISH_SUBSURFACE, finish.subsurfaceWeight);
  putColor(L.FINISH_SUBSURFACE_COLOR, unit(finish.subsurfaceColor));
  putColor(
    L.FINISH_SUBSURFACE_RADIUS,
    finish.subsurfaceRadiusScale.map((scale) => Math.max(1e-3, finish.subsurfaceRadius * scale)),
  );
  put(L.FINISH_SUBSURFACE_ANISOTROPY, finish.subsurfaceScatterAnisotropy);
  putColor(L.FINISH_EXTINCTION, inside.extinction);
  putColor(L.FINISH_SCATTERING, inside.scattering);
  put(L.FINISH_SCATTER_ANISOTROPY, finish.transmissionScatterAnisotropy);
  put(L.FINISH_COAT, finish.coatWeight);
  putColor(L.FINISH_COAT_COLOR, unit(finish.coatColor));
  put(L.FINISH_COAT_ROUGHNESS, finish.coatRoughness);
  put(L.FINISH_COAT_ANISOTROPY, Math.min(0.98, finish.coatRoughnessAnisotropy));
  put(L.FINISH_COAT_IOR, Math.max(1.0001, finish.coatIor));
  put(L.FINISH_COAT_DARKENING, finish.coatDarkening);
  put(L.FINISH_FUZZ, finish.fuzzWeight);
  putColor(L.FINISH_FUZZ_COLOR, unit(finish.fuzzColor));
  put(L.FINISH_FUZZ_ROUGHNESS, finish.fuzzRoughness);
  put(L.FINISH_FILM, finish.thinFilmWeight);
  put(L.FINISH_FILM_THICKNESS, finish.thinFilmThickness * 1000);
  put(L.FINISH_FILM_IOR, finish.thinFilmIor);
  put(L.FINISH_OPACITY, finish.geometryOpacity);
  putColor(L.FINISH_EMISSION, [1, 1, 1]);
  u32[(at + L.FINISH_HASH) / 4] = matteId(finish.name);
}
