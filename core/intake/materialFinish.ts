import type { ExtensionProperty, Material, Texture, TextureInfo } from '@gltf-transform/core';
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
  type Anisotropy,
  type Clearcoat,
  type Dispersion,
  type EmissiveStrength,
  type IOR,
  type Iridescence,
  type Sheen,
  type Specular,
  type Transform as TextureTransform,
  type Transmission,
  type Volume,
} from '@gltf-transform/extensions';
import type { Finish, FinishMap, MapSlot } from '../document';
import { blackBody, LUMENS_PER_WATT, luminance } from '../optics';
import { MILLIMETRES, WHITE_KELVIN } from './gltfExtensions';
import type { ModelFinish, ModelMap } from './model';

type Color = [number, number, number];

/**
 * A glTF material as a finish, by what both specifications say of its parameters. Emission of 1 is full white at exposure 0
 * (683 nits): programs write it as a share of white, whatever unit the standard gives it.
 * @param pictureOf number of a texture among the model's pictures, null where it cannot be used
 */
export function materialFinish(
  material: Material,
  pictureOf: (texture: Texture) => number | null,
  notes: Set<string>,
): ModelFinish {
  const [r, g, b, a] = material.getBaseColorFactor();
  const base: Color = [r, g, b];
  const values: Partial<Finish> = {
    baseColor: base,
    baseMetalness: material.getMetallicFactor(),
    specularRoughness: material.getRoughnessFactor(),
    geometryOpacity: material.getAlphaMode() === 'OPAQUE' ? 1 : a,
  };
  const maps: ModelMap[] = [];
  const add = (
    slot: MapSlot,
    texture: Texture | null,
    info: TextureInfo | null,
    channel: FinishMap['channel'] = 'red',
    strength = 1,
  ) => {
    if (!texture) return;
    const picture = pictureOf(texture);
    if (info && info.getTexCoord() !== 0) notes.add('Pictures that use a second set of coordinates were left out.');
    else if (picture !== null) maps.push({ slot, picture, over: { channel, strength, ...placeOf(info) } });
  };
  const colored = [material.getBaseColorTexture(), material.getBaseColorTextureInfo()] as const;
  add('baseColor', ...colored);
  if (material.getAlphaMode() !== 'OPAQUE') add('geometryOpacity', ...colored, 'alpha');
  const surface = [material.getMetallicRoughnessTexture(), material.getMetallicRoughnessTextureInfo()] as const;
  add('specularRoughness', ...surface, 'green');
  add('baseMetalness', ...surface, 'blue');
  add('normal', material.getNormalTexture(), material.getNormalTextureInfo(), 'red', material.getNormalScale());
  readEmission(material, values);
  add('emissionColor', material.getEmissiveTexture(), material.getEmissiveTextureInfo());
  readGlass(material, values, base);
  const transmission = extension<Transmission>(material, KHRMaterialsTransmission);
  add(
    'transmissionWeight',
    transmission?.getTransmissionTexture() ?? null,
    transmission?.getTransmissionTextureInfo() ?? null,
  );
  const coat = extension<Clearcoat>(material, KHRMaterialsClearcoat);
  if (coat) {
    values.coatWeight = coat.getClearcoatFactor();
    values.coatRoughness = coat.getClearcoatRoughnessFactor();
    add('coatWeight', coat.getClearcoatTexture(), coat.getClearcoatTextureInfo());
    add('coatRoughness', coat.getClearcoatRoughnessTexture(), coat.getClearcoatRoughnessTextureInfo(), 'green');
    if (coat.getClearcoatNormalTexture()) notes.add('Normal maps of coats were left out.');
  }
  const sheen = extension<Sheen>(material, KHRMaterialsSheen);
  if (sheen) {
    const color = sheen.getSheenColorFactor();
    values.fuzzWeight = Math.max(...color);
    if (values.fuzzWeight > 0) values.fuzzColor = color.map((v) => v / values.fuzzWeight!) as Color;
    values.fuzzRoughness = sheen.getSheenRoughnessFactor();
    add('fuzzColor', sheen.getSheenColorTexture(), sheen.getSheenColorTextureInfo());
    add('fuzzRoughness', sheen.getSheenRoughnessTexture(), sheen.getSheenRoughnessTextureInfo(), 'alpha');
  }
  const specular = extension<Specular>(material, KHRMaterialsSpecular);
  if (specular) {
    values.specularWeight = specular.getSpecularFactor();
    values.specularColor = specular.getSpecularColorFactor();
    add('specularWeight', specular.getSpecularTexture(), specular.getSpecularTextureInfo(), 'alpha');
    add('specularColor', specular.getSpecularColorTexture(), specular.getSpecularColorTextureInfo());
  }
  const anisotropy = extension<Anisotropy>(material, KHRMaterialsAnisotropy);
  if (anisotropy) {
    Object.assign(values, brushedOf(material.getRoughnessFactor(), anisotropy.getAnisotropyStrength()));
    values.specularRotation = anisotropy.getAnisotropyRotation();
    if (anisotropy.getAnisotropyTexture()) notes.add('Pictures of a brushed direction were left out.');
  }
  const film = extension<Iridescence>(material, KHRMaterialsIridescence);
  if (film) {
    const thickest = film.getIridescenceThicknessMaximum();
    values.thinFilmWeight = film.getIridescenceFactor();
    values.thinFilmIor = film.getIridescenceIOR();
    values.thinFilmThickness = thickest / 1000;
    add('thinFilmWeight', film.getIridescenceTexture(), film.getIridescenceTextureInfo());
    add(
      'thinFilmThickness',
      film.getIridescenceThicknessTexture(),
      film.getIridescenceThicknessTextureInfo(),
      'green',
      thickest > 0 ? 1 - film.getIridescenceThicknessMinimum() / thickest : 0,
    );
  }
  return { name: material.getName() || 'Finish', values, maps };
}

function readEmission(material: Material, values: Partial<Finish>): void {
  const strength = extension<EmissiveStrength>(material, KHRMaterialsEmissiveStrength)?.getEmissiveStrength() ?? 1;
  const color = material.getEmissiveFactor();
  const bright = luminance(color) * strength;
  if (!(bright > 0)) return;
  const white = blackBody(WHITE_KELVIN);
  const tint = color.map((v, k) => v / white[k]!);
  values.emissionPower = bright * LUMENS_PER_WATT;
  values.emissionUnit = 'nit';
  values.emissionKelvin = WHITE_KELVIN;
  values.emissionColor = tint.map((v) => v / Math.max(...tint)) as Color;
  values.emissionTwoSided = material.getDoubleSided();
}

function readGlass(material: Material, values: Partial<Finish>, base: Color): void {
  values.specularIor = Math.min(4, extension<IOR>(material, KHRMaterialsIOR)?.getIOR() || 1.5);
  const transmission = extension<Transmission>(material, KHRMaterialsTransmission);
  if (!transmission) return;
  values.transmissionWeight = transmission.getTransmissionFactor();
  const volume = extension<Volume>(material, KHRMaterialsVolume);
  const distance = volume?.getAttenuationDistance() ?? 0;
  values.thinWalled = !volume || volume.getThicknessFactor() === 0;
  if (values.thinWalled || !Number.isFinite(distance) || distance <= 0) values.transmissionColor = base;
  else {
    // glTF also tints what enters by the base colour; a solid here takes all of its colour from its depth.
    values.transmissionColor = volume!.getAttenuationColor().map((v, k) => v * base[k]!) as Color;
    values.transmissionDepth = distance * MILLIMETRES;
  }
  const spread = extension<Dispersion>(material, KHRMaterialsDispersion)?.getDispersion() ?? 0;
  if (spread > 0) {
    values.transmissionDispersionScale = Math.min(1, spread);
    values.transmissionDispersionAbbeNumber = Math.max(5, spread > 1 ? 20 / spread : 20);
  }
}

/**
 * Roughness and brushing that give the two widths of a glTF highlight: α across the grain and α + (1 − α) strength² along it,
 * against OpenPBR's αt = r² √(2 / (1 + (1 − a)²)) and αb = (1 − a) αt.
 */
function brushedOf(roughness: number, strength: number): Partial<Finish> {
  const across = Math.max(1e-4, roughness * roughness);
  const along = across + (1 - across) * strength * strength;
  return {
    specularRoughness: Math.min(1, ((along * along + across * across) / 2) ** 0.25),
    specularRoughnessAnisotropy: 1 - across / along,
  };
}

function placeOf(info: TextureInfo | null): Partial<FinishMap> {
  const place = info?.getExtension<TextureTransform>(KHRTextureTransform.EXTENSION_NAME);
  if (!place) return {};
  const [offsetU, offsetV] = place.getOffset();
  const [repeatU, repeatV] = place.getScale();
  return { offsetU, offsetV, repeatU, repeatV, turn: place.getRotation() };
}

function extension<T extends ExtensionProperty>(
  material: Material,
  { EXTENSION_NAME }: { EXTENSION_NAME: string },
): T | null {
  return material.getExtension<T>(EXTENSION_NAME);
}
