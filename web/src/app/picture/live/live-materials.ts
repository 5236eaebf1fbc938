import * as THREE from 'three';
import {
  footageOf,
  layersOf,
  newFinish,
  type Camera,
  type Finish,
  type FinishMap,
  type PictureFile,
  type SceneNode,
} from '@zippy/core/document';
import { lightColor, partRadiance, pictureOfSource } from '@zippy/core/optics';
import { finishMaps, writeMap } from '@zippy/core/trace';
import { blobUrl } from '../../api/urls';
import type { LightRig } from './light-rig';
import { LAYER_TEXELS, MOST_PICTURES, SHADE_TEXELS } from './map-shader';
import { stainFragment, surfaceFragment, surfaceVertex } from './surface-shader';

/** Stands for the finish of parts without one. */
const NO_FINISH = {};

/** The shot's camera and the aspect of its picture. */
export interface SeenBy {
  camera: Camera | null;
  aspect: number;
}

/** What a mesh is drawn with: of glass two, its stain and its surface. */
export type Worn = THREE.Material | THREE.Material[];

/** Frames of footage that stay with the graphics card; those that were shown longest ago go. */
const MOST_FRAMES = 48;

/** Pictures that finishes wear, each read once. */
export class LiveTextures {
  private readonly textures = new Map<string, THREE.Texture>();
  /** Of footage. */
  private readonly frames = new Map<string, THREE.Texture>();
  /** The last frame of each footage that has come. */
  private readonly shown = new Map<string, THREE.Texture['image']>();

  /** @param arrived is told that a picture has come */
  constructor(private readonly arrived: () => void) {}

  /** @param footage that it is a frame of, or null */
  of({ coding }: FinishMap, hash: string, footage: string | null): THREE.Texture {
    const kept = footage === null ? this.textures : this.frames;
    const key = `${hash}/${coding}`;
    const texture = kept.get(key) ?? this.bring(hash, coding, footage);
    kept.delete(key);
    kept.set(key, texture);
    if (this.frames.size > MOST_FRAMES) {
      const [oldest, gone] = this.frames.entries().next().value!;
      this.frames.delete(oldest);
      gone.dispose();
    }
    return texture;
  }

  private bring(hash: string, coding: FinishMap['coding'], footage: string | null): THREE.Texture {
    const texture = new THREE.Texture();
    texture.colorSpace = coding === 'srgb' ? THREE.SRGBColorSpace : THREE.NoColorSpace;
    texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
    texture.flipY = false;
    texture.anisotropy = 4;
    // Until it comes the frame before it stands there, so that nothing flickers.
    const before = footage && this.shown.get(footage);
    if (before) {
      texture.image = before;
      texture.needsUpdate = true;
    }
    new THREE.ImageLoader().load(blobUrl(hash), (image) => {
      texture.image = image;
      texture.needsUpdate = true;
      if (footage) this.shown.set(footage, image);
      this.arrived();
    });
    return texture;
  }
}

/** Finishes as the live picture draws them, each made once. */
export class LiveMaterials {
  private readonly materials = new WeakMap<object, Map<string, Worn>>();

  constructor(
    private readonly rig: LightRig,
    private readonly textures: LiveTextures,
  ) {}

  /**
   * @param glow what its emission is multiplied by @param area of the part's surface, mm² @param dimmed all but what is lit is
   * @param pictures files, as the document names them @param seenBy for what is laid on from the camera
   */
  of(
    finish: Finish | undefined,
    glow: number,
    area: () => number,
    dimmed: boolean,
    pictures: Readonly<Record<string, PictureFile>>,
    seenBy: SeenBy,
    ofPlate: SceneNode['ofPlate'] = 'no',
  ): Worn {
    // Finishes that do not move are the same objects on every frame, so that nothing has to be compared.
    const known = this.materials.get(finish ?? NO_FINISH) ?? new Map<string, Worn>();
    this.materials.set(finish ?? NO_FINISH, known);
    const shines = finish !== undefined && finish.emissionPower * glow > 0;
    const laidBy = finish && finishMaps(finish).some(({ projection }) => projection === 'camera') ? seenBy : null;
    const key = `${ofPlate}/${dimmed}/${shines ? `${glow}/${area()}` : ''}/${laidBy ? JSON.stringify(laidBy) : ''}`;
    const worn = known.get(key);
    if (worn) return worn;
    const material = surfaceMaterial(this.rig, finish ?? newFinish({ baseColor: [0.4, 0.4, 0.4] }), {
      radiance: shines ? partRadiance(finish, glow, area()) : 0,
      dimmed,
      ofPlate,
      cuttable: ofPlate !== 'no',
    });
    if (finish) this.wear(material, finish, pictures, seenBy);
    const made =
      finish && !dimmed && isClear(finish) && ofPlate === 'no' ? [stainMaterial(finish), material] : material;
    known.set(key, made);
    return made;
  }

  /** Gives a material the layers of maps of its finish; what stands where pictures are missing is left out. */
  private wear(
    material: THREE.ShaderMaterial,
    finish: Finish,
    pictures: Readonly<Record<string, PictureFile>>,
    seenBy: SeenBy,
  ): void {
    const worn: string[] = [];
    const layers = finishMaps(finish).flatMap((map) => {
      const picture = pictureOfSource(map.source);
      if (picture === null) return [{ map, picture: 0 }];
      const { hash } = pictures[picture] ?? {};
      if (!hash) return [];
      const known = worn.indexOf(`${hash}/${map.coding}`);
      if (known >= 0) return [{ map, picture: known + 1 }];
      if (worn.length === MOST_PICTURES) return [];
      worn.push(`${hash}/${map.coding}`);
      material.uniforms[`picture${worn.length - 1}`]!.value = this.textures.of(map, hash, footageOf(picture));
      return [{ map, picture: worn.length }];
    });
    if (layers.length === 0) return;
    const { layerCount, mapLayers } = material.uniforms;
    layerCount!.value = layers.length;
    material.defines['MAPPED'] = 1;
    if (layers.some(({ map }) => map.source.kind === 'noise')) material.defines['NOISY'] = 1;
    const texture = layersTexture(layers, seenBy);
    mapLayers!.value = texture;
    material.addEventListener('dispose', () => texture.dispose());
  }
}

/** Records of layers as a texture of words, a layer in each row. @param picture number of its picture, from 1 */
function layersTexture(layers: readonly { map: FinishMap; picture: number }[], seenBy: SeenBy): THREE.DataTexture {
  const width = LAYER_TEXELS + SHADE_TEXELS;
  const words = new Uint32Array(width * 4 * layers.length);
  const floats = new Float32Array(words.buffer);
  layers.forEach(({ map, picture }, row) => {
    const at = row * width * 4;
    writeMap(floats, words, at * 4, map, picture, 0, seenBy);
    map.shades?.forEach(({ at: where, color }, k) => floats.set([where, ...color], at + (LAYER_TEXELS + k) * 4));
  });
  return wordTexture(words, width, layers.length);
}

function wordTexture(words: Uint32Array, width: number, height: number): THREE.DataTexture {
  const texture = new THREE.DataTexture(words, width, height, THREE.RGBAIntegerFormat, THREE.UnsignedIntType);
  texture.internalFormat = 'RGBA32UI';
  texture.needsUpdate = true;
  return texture;
}

/** Stands where a finish has no maps: a sampler of words must have some. */
const NO_LAYERS = wordTexture(new Uint32Array(4), 1, 1);

/** How a surface is drawn besides what its finish says. */
interface Drawn {
  radiance?: number;
  dimmed?: boolean;
  /** It shows what is seen behind, see `SceneNode.ofPlate`. */
  ofPlate?: SceneNode['ofPlate'];
  /** Openings go through it. */
  cuttable?: boolean;
}

/** What a floor or part is drawn with. */
export function surfaceMaterial(
  rig: LightRig,
  finish: Finish,
  { radiance = 0, dimmed = false, ofPlate = 'no', cuttable = false }: Drawn = {},
): THREE.ShaderMaterial {
  const color = (c: readonly number[], by = 1) => ({ value: new THREE.Vector3(c[0]! * by, c[1]! * by, c[2]! * by) });
  const number = (value: number) => ({ value });
  const clear = isClear(finish);
  const cut = finish.geometryOpacity < 1 || layersOf(finish, 'geometryOpacity').length > 0;
  const shade = ofPlate === 'catches';
  const partly = dimmed || clear || cut || shade;
  return new THREE.ShaderMaterial({
    vertexShader: surfaceVertex,
    fragmentShader: surfaceFragment,
    side: THREE.DoubleSide,
    defines: { ...(cut ? { CUT: 1 } : {}), ...(cuttable ? { CUTTABLE: 1 } : {}), ...(shade ? { SHADE_ALONE: 1 } : {}) },
    transparent: partly && ofPlate === 'no',
    colorWrite: ofPlate !== 'hides',
    depthWrite: ofPlate !== 'no' || !(dimmed || clear),
    blending: partly ? THREE.CustomBlending : THREE.NoBlending,
    blendSrc: THREE.OneFactor,
    blendDst: THREE.OneMinusSrcAlphaFactor,
    uniforms: {
      ...rig.uniforms,
      baseColor: color(finish.baseColor, finish.baseWeight),
      specularColor: color(finish.specularColor),
      coatColor: color(finish.coatColor),
      fuzzColor: color(finish.fuzzColor),
      subsurfaceColor: color(finish.subsurfaceColor),
      emission: color(lightColor(finish.emissionKelvin, finish.emissionColor), radiance),
      metalness: number(finish.baseMetalness),
      roughness: number(finish.specularRoughness),
      specular: number(finish.specularWeight),
      ior: number(finish.specularIor),
      anisotropy: number(finish.specularRoughnessAnisotropy),
      grain: number(finish.specularRotation),
      coat: number(finish.coatWeight),
      coatRoughness: number(finish.coatRoughness),
      fuzz: number(finish.fuzzWeight),
      fuzzRoughness: number(finish.fuzzRoughness),
      subsurface: number(finish.subsurfaceWeight),
      transmission: number(finish.transmissionWeight),
      opacity: number(finish.geometryOpacity),
      dim: number(dimmed ? 0.06 : 1),
      mapLayers: { value: NO_LAYERS },
      layerCount: number(0),
      partHash: number(0),
      ...Object.fromEntries(Array.from({ length: MOST_PICTURES }, (_, k) => [`picture${k}`, { value: null }])),
    },
  });
}

const isClear = ({ transmissionWeight, baseMetalness }: Finish): boolean =>
  transmissionWeight * (1 - baseMetalness) > 0.02;

/** Multiplies what stands behind glass by its colour. Of a solid that is the colour of a way through it, in and out are two. */
export function stainMaterial({ transmissionWeight, transmissionColor, thinWalled }: Finish): THREE.ShaderMaterial {
  const side = (v: number) => 1 - transmissionWeight + transmissionWeight * (thinWalled ? v : Math.sqrt(v));
  return new THREE.ShaderMaterial({
    vertexShader: surfaceVertex,
    fragmentShader: stainFragment,
    side: THREE.DoubleSide,
    transparent: true,
    depthWrite: false,
    blending: THREE.CustomBlending,
    blendSrc: THREE.ZeroFactor,
    blendDst: THREE.SrcColorFactor,
    blendSrcAlpha: THREE.ZeroFactor,
    blendDstAlpha: THREE.OneFactor,
    uniforms: {
      stain: { value: new THREE.Vector3(...transmissionColor.map(side)) },
    },
  });
}
