import type { Document, Material, Texture, TextureInfo } from '@gltf-transform/core';
import {
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { lowestLayer, type Finish, type FinishMap, type MapSlot } from '../document';
import { lightColor, pictureOfSource } from '../optics';
import { MILLIMETRES } from './gltfExtensions';

type Color = [number, number, number];

/**
 * A finish as a glTF material. What glTF has no word for is left out: cloudiness, subsurface scattering, chalkiness, coat
 * colour, the direction of coats.
 * @param radiance luminance of what it sends out, 1 being 683 nits; see `partRadiance`
 * @param textureOf texture that holds a picture of the document
 */
export function finishMaterial(
  document: Document,
  finish: Finish,
  radiance: number,
  textureOf: (picture: string) => Texture | null,
): Material {
  const solid = finish.transmissionWeight > 0 && !finish.thinWalled && finish.transmissionDepth > 0;
  const tinted = finish.transmissionWeight > 0.5 && !solid;
  const color = tinted ? finish.transmissionColor : finish.baseColor.map((v) => v * finish.baseWeight);
  const white: Color = [1, 1, 1];
  const roughness = solidRoughness(finish);
  const material = document
    .createMaterial(finish.name)
    .setBaseColorFactor([...((solid ? white : color.map((v) => Math.min(1, v))) as Color), finish.geometryOpacity])
    .setMetallicFactor(finish.baseMetalness)
    .setRoughnessFactor(roughness.roughness)
    .setAlphaMode(finish.geometryOpacity < 1 || lowestLayer(finish, 'geometryOpacity') ? 'BLEND' : 'OPAQUE')
    .setDoubleSided(finish.thinWalled || finish.emissionTwoSided);
  const wear = (slot: MapSlot, set: (texture: Texture) => unknown, info: () => TextureInfo | null) => {
    const map = lowestLayer(finish, slot);
    const picture = map && pictureOfSource(map.source);
    const texture = picture ? textureOf(picture) : null;
    if (!map || !texture) return;
    set(texture);
    placeTexture(document, info(), map);
  };
  wear(
    'baseColor',
    (t) => material.setBaseColorTexture(t),
    () => material.getBaseColorTextureInfo(),
  );
  // Both slots share one picture in glTF, roughness in green and metalness in blue: only maps laid out so can be kept.
  const [rough, metal] = [lowestLayer(finish, 'specularRoughness'), lowestLayer(finish, 'baseMetalness')];
  if (rough ? rough.channel === 'green' : metal?.channel === 'blue')
    wear(
      rough ? 'specularRoughness' : 'baseMetalness',
      (t) => material.setMetallicRoughnessTexture(t),
      () => material.getMetallicRoughnessTextureInfo(),
    );
  wear(
    'normal',
    (t) => material.setNormalTexture(t),
    () => material.getNormalTextureInfo(),
  );
  const relief = lowestLayer(finish, 'normal');
  if (relief) material.setNormalScale(relief.strength);
  if (radiance > 0) {
    const light = lightColor(finish.emissionKelvin, finish.emissionColor).map((v) => v * radiance) as Color;
    const most = Math.max(...light);
    material.setEmissiveFactor(light.map((v) => v / most) as Color);
    material.setExtension(
      KHRMaterialsEmissiveStrength.EXTENSION_NAME,
      document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(most),
    );
    wear(
      'emissionColor',
      (t) => material.setEmissiveTexture(t),
      () => material.getEmissiveTextureInfo(),
    );
  }
  if (finish.specularIor !== 1.5)
    material.setExtension(
      KHRMaterialsIOR.EXTENSION_NAME,
      document.createExtension(KHRMaterialsIOR).createIOR().setIOR(finish.specularIor),
    );
  if (finish.transmissionWeight > 0) {
    const transmission = document
      .createExtension(KHRMaterialsTransmission)
      .createTransmission()
      .setTransmissionFactor(finish.transmissionWeight);
    material.setExtension(KHRMaterialsTransmission.EXTENSION_NAME, transmission);
    wear(
      'transmissionWeight',
      (t) => transmission.setTransmissionTexture(t),
      () => transmission.getTransmissionTextureInfo(),
    );
    if (!finish.thinWalled) {
      const volume = document.createExtension(KHRMaterialsVolume).createVolume().setThicknessFactor(1);
      if (solid)
        volume
          .setAttenuationColor([...finish.transmissionColor])
          .setAttenuationDistance(finish.transmissionDepth / MILLIMETRES);
      material.setExtension(KHRMaterialsVolume.EXTENSION_NAME, volume);
    }
    if (finish.transmissionDispersionScale > 0) {
      const spread = (20 * finish.transmissionDispersionScale) / finish.transmissionDispersionAbbeNumber;
      material.setExtension(
        KHRMaterialsDispersion.EXTENSION_NAME,
        document.createExtension(KHRMaterialsDispersion).createDispersion().setDispersion(spread),
      );
    }
  }
  if (finish.coatWeight > 0) {
    const coat = document
      .createExtension(KHRMaterialsClearcoat)
      .createClearcoat()
      .setClearcoatFactor(finish.coatWeight)
      .setClearcoatRoughnessFactor(finish.coatRoughness);
    material.setExtension(KHRMaterialsClearcoat.EXTENSION_NAME, coat);
    wear(
      'coatWeight',
      (t) => coat.setClearcoatTexture(t),
      () => coat.getClearcoatTextureInfo(),
    );
    if (lowestLayer(finish, 'coatRoughness')?.channel === 'green')
      wear(
        'coatRoughness',
        (t) => coat.setClearcoatRoughnessTexture(t),
        () => coat.getClearcoatRoughnessTextureInfo(),
      );
  }
  if (finish.fuzzWeight > 0) {
    const sheen = document
      .createExtension(KHRMaterialsSheen)
      .createSheen()
      .setSheenColorFactor(finish.fuzzColor.map((v) => Math.min(1, v * finish.fuzzWeight)) as Color)
      .setSheenRoughnessFactor(finish.fuzzRoughness);
    material.setExtension(KHRMaterialsSheen.EXTENSION_NAME, sheen);
    wear(
      'fuzzColor',
      (t) => sheen.setSheenColorTexture(t),
      () => sheen.getSheenColorTextureInfo(),
    );
  }
  if (
    finish.specularWeight !== 1 ||
    finish.specularColor.some((v) => v !== 1) ||
    lowestLayer(finish, 'specularColor')
  ) {
    const specular = document
      .createExtension(KHRMaterialsSpecular)
      .createSpecular()
      .setSpecularFactor(finish.specularWeight)
      .setSpecularColorFactor([...finish.specularColor]);
    material.setExtension(KHRMaterialsSpecular.EXTENSION_NAME, specular);
    wear(
      'specularColor',
      (t) => specular.setSpecularColorTexture(t),
      () => specular.getSpecularColorTextureInfo(),
    );
  }
  if (roughness.strength > 0)
    material.setExtension(
      KHRMaterialsAnisotropy.EXTENSION_NAME,
      document
        .createExtension(KHRMaterialsAnisotropy)
        .createAnisotropy()
        .setAnisotropyStrength(roughness.strength)
        .setAnisotropyRotation(finish.specularRotation),
    );
  if (finish.thinFilmWeight > 0) {
    const thickest = finish.thinFilmThickness * 1000;
    const film = document
      .createExtension(KHRMaterialsIridescence)
      .createIridescence()
      .setIridescenceFactor(finish.thinFilmWeight)
      .setIridescenceIOR(finish.thinFilmIor)
      .setIridescenceThicknessMaximum(thickest)
      .setIridescenceThicknessMinimum(thickest * (1 - (lowestLayer(finish, 'thinFilmThickness')?.strength ?? 0)));
    material.setExtension(KHRMaterialsIridescence.EXTENSION_NAME, film);
    wear(
      'thinFilmWeight',
      (t) => film.setIridescenceTexture(t),
      () => film.getIridescenceTextureInfo(),
    );
    if (lowestLayer(finish, 'thinFilmThickness')?.channel === 'green')
      wear(
        'thinFilmThickness',
        (t) => film.setIridescenceThicknessTexture(t),
        () => film.getIridescenceThicknessTextureInfo(),
      );
  }
  return material;
}

/** Roughness across the grain and strength along it; see `brushedOf` of materialFinish.ts. */
function solidRoughness({ specularRoughness, specularRoughnessAnisotropy: a }: Finish): {
  roughness: number;
  strength: number;
} {
  if (a === 0) return { roughness: specularRoughness, strength: 0 };
  const along = Math.min(1, specularRoughness ** 2 * Math.sqrt(2 / (1 + (1 - a) ** 2)));
  const across = (1 - a) * along;
  return { roughness: Math.sqrt(across), strength: across < 1 ? Math.sqrt((along - across) / (1 - across)) : 0 };
}

function placeTexture(document: Document, info: TextureInfo | null, map: FinishMap): void {
  const { offsetU, offsetV, repeatU, repeatV, turn } = map;
  if (!info || [offsetU, offsetV, repeatU - 1, repeatV - 1, turn].every((v) => v === 0)) return;
  info.setExtension(
    KHRTextureTransform.EXTENSION_NAME,
    document
      .createExtension(KHRTextureTransform)
      .createTransform()
      .setOffset([offsetU, offsetV])
      .setScale([repeatU, repeatV])
      .setRotation(turn),
  );
}
