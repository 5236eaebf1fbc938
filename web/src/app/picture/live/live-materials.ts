import * as THREE from 'three';
import { mapMatrix, newFinish, type Finish, type FinishMap } from '@zippy/core/document';
import { lightColor, partRadiance, pictureOfSource } from '@zippy/core/optics';
import { blobUrl } from '../../api/urls';
import type { LightRig } from './light-rig';
import { stainFragment, surfaceFragment, surfaceVertex } from './surface-shader';

/** Stands for the finish of parts without one. */
const NO_FINISH = {};
const CHANNELS: FinishMap['channel'][] = ['red', 'green', 'blue', 'alpha'];

/** What a mesh is drawn with: of glass two, its stain and its surface. */
export type Worn = THREE.Material | THREE.Material[];

/** Pictures that finishes wear, each read once. */
export class LiveTextures {
  private readonly textures = new Map<string, THREE.Texture>();

  /** @param arrived is told that a picture has come */
  constructor(private readonly arrived: () => void) {}

  of({ coding }: FinishMap, hash: string): THREE.Texture {
    const key = `${hash}/${coding}`;
    let texture = this.textures.get(key);
    if (texture) return texture;
    texture = new THREE.TextureLoader().load(blobUrl(hash), this.arrived);
    texture.colorSpace = coding === 'srgb' ? THREE.SRGBColorSpace : THREE.NoColorSpace;
    texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
    texture.flipY = false;
    texture.anisotropy = 4;
    this.textures.set(key, texture);
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
   * @param pictures content hashes by asset id
   */
  of(
    finish: Finish | undefined,
    glow: number,
    area: () => number,
    dimmed: boolean,
    pictures: Readonly<Record<string, string>>,
  ): Worn {
    // Finishes that do not move are the same objects on every frame, so that nothing has to be compared.
    const known = this.materials.get(finish ?? NO_FINISH) ?? new Map<string, Worn>();
    this.materials.set(finish ?? NO_FINISH, known);
    const shines = finish !== undefined && finish.emissionPower * glow > 0;
    const key = `${dimmed}/${shines ? `${glow}/${area()}` : ''}`;
    const worn = known.get(key);
    if (worn) return worn;
    const material = surfaceMaterial(this.rig, finish ?? newFinish({ baseColor: [0.4, 0.4, 0.4] }), {
      radiance: shines ? partRadiance(finish, glow, area()) : 0,
      dimmed,
    });
    if (finish) this.wear(material, finish, pictures);
    const made = finish && !dimmed && isClear(finish) ? [stainMaterial(finish), material] : material;
    known.set(key, made);
    return made;
  }

  private wear(material: THREE.ShaderMaterial, { maps }: Finish, pictures: Readonly<Record<string, string>>): void {
    const { mapped, mappedToo, channels, placing, coordinated } = material.uniforms;
    const put = (map: FinishMap | undefined, name: string, strength: (value: number) => void, channel?: number) => {
      const picture = map && pictureOfSource(map.source);
      const hash = picture ? pictures[picture] : undefined;
      if (!map || !hash) return;
      material.uniforms[name]!.value = this.textures.of(map, hash);
      // As in the tracer, a picture multiplies wholly at the most; only a relief may be steeper.
      strength(name === 'normalMap' ? map.strength : Math.min(1, map.strength));
      if (channel !== undefined)
        (channels!.value as THREE.Vector4).setComponent(channel, CHANNELS.indexOf(map.channel));
      const [a, b, c, d, e, f] = mapMatrix(map);
      (placing!.value as THREE.Matrix3).set(a, b, c, d, e, f, 0, 0, 1);
      coordinated!.value = 1;
    };
    put(maps.emissionColor, 'emissionMap', (v) => ((mappedToo!.value as THREE.Vector3).z = v));
    put(maps.geometryOpacity, 'opacityMap', (v) => ((mappedToo!.value as THREE.Vector3).x = v), 2);
    put(maps.baseMetalness, 'metalnessMap', (v) => ((mapped!.value as THREE.Vector3).z = v), 1);
    put(maps.specularRoughness, 'roughnessMap', (v) => ((mapped!.value as THREE.Vector3).y = v), 0);
    put(maps.normal, 'normalMap', (v) => ((mappedToo!.value as THREE.Vector3).y = v));
    // Last, as all share one place on the surface: that of the colour is seen most.
    put(maps.baseColor, 'colorMap', (v) => ((mapped!.value as THREE.Vector3).x = v));
  }
}

/** What a floor or part is drawn with. */
export function surfaceMaterial(
  rig: LightRig,
  finish: Finish,
  { radiance = 0, dimmed = false }: { radiance?: number; dimmed?: boolean } = {},
): THREE.ShaderMaterial {
  const color = (c: readonly number[], by = 1) => ({ value: new THREE.Vector3(c[0]! * by, c[1]! * by, c[2]! * by) });
  const number = (value: number) => ({ value });
  const clear = isClear(finish);
  const cut = finish.geometryOpacity < 1 || finish.maps.geometryOpacity !== undefined;
  const partly = dimmed || clear || cut;
  return new THREE.ShaderMaterial({
    vertexShader: surfaceVertex,
    fragmentShader: surfaceFragment,
    side: THREE.DoubleSide,
    defines: cut ? { CUT: 1 } : {},
    transparent: partly,
    depthWrite: !(dimmed || clear),
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
      colorMap: { value: null },
      roughnessMap: { value: null },
      metalnessMap: { value: null },
      opacityMap: { value: null },
      normalMap: { value: null },
      emissionMap: { value: null },
      mapped: { value: new THREE.Vector3() },
      mappedToo: { value: new THREE.Vector3() },
      channels: { value: new THREE.Vector4() },
      placing: { value: new THREE.Matrix3() },
      coordinated: number(0),
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
      placing: { value: new THREE.Matrix3() },
      coordinated: { value: 0 },
    },
  });
}
