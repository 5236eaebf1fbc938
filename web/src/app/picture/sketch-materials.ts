import { blobUrl } from '../api/urls';
import * as THREE from 'three';
import { mapMatrix, newFinish, type Finish, type FinishMap } from '@zippy/core/document';
import { lightColor } from '@zippy/core/optics';

/** How a part is drawn besides its finish. */
export type Shade = 'plain' | 'selected' | 'hovered' | 'dim';

const SELECTED = 0x4fcfae;
/** Stands for the finish of parts without one. */
const NO_FINISH = {};

/** Plain materials that stand for finishes in the sketch, each made once. */
export class SketchMaterials {
  private readonly materials = new WeakMap<object, Map<string, THREE.MeshPhongMaterial>>();
  private readonly textures = new Map<string, THREE.Texture>();

  /** @param arrived is told that a picture has come */
  constructor(private readonly arrived: () => void) {}

  of(finish: Finish | undefined, glow: number, lit: Shade, map: THREE.Texture | null): THREE.MeshPhongMaterial {
    // Finishes that do not move are the same objects on every frame, so that nothing has to be compared.
    const known = this.materials.get(finish ?? NO_FINISH) ?? new Map<string, THREE.MeshPhongMaterial>();
    this.materials.set(finish ?? NO_FINISH, known);
    const key = `${glow}/${lit}/${map?.uuid}`;
    let material = known.get(key);
    if (material) return material;
    const [r, g, b] = finish?.baseColor ?? [0.4, 0.4, 0.4];
    const clear = finish?.transmissionWeight ?? 0;
    const gloss = 1 - (finish?.specularRoughness ?? 0.5);
    material = new THREE.MeshPhongMaterial({
      color: new THREE.Color(r, g, b),
      specular: new THREE.Color().setScalar(0.05 + 0.25 * (finish?.baseMetalness ?? 0)),
      shininess: 8 + gloss * 60,
      transparent: clear > 0.1,
      opacity: 1 - clear * 0.72,
      side: THREE.DoubleSide,
      map,
    });
    if (clear > 0.1 && finish) material.color.setRGB(...finish.transmissionColor);
    if (finish && finish.emissionPower * glow > 0) {
      const power = Math.min(1, 0.25 + Math.log10(1 + finish.emissionPower * glow) * 0.55);
      material.emissive.setRGB(...lightColor(finish.emissionKelvin, finish.emissionColor)).multiplyScalar(power * 0.7);
    }
    if (lit === 'hovered' || lit === 'selected')
      material.emissive.lerp(new THREE.Color(SELECTED), lit === 'hovered' ? 0.6 : 0.28);
    if (lit === 'dim') Object.assign(material, { transparent: true, opacity: 0.06, depthWrite: false, map: null });
    known.set(key, material);
    return material;
  }

  /** One of each kind that needs a shader program of its own: solid and clear, with and without a picture. */
  examples(): THREE.Material[] {
    return [0, 1].flatMap((transmissionWeight) =>
      [null, new THREE.Texture()].map((map) => this.of(newFinish({ transmissionWeight }), 1, 'plain', map)),
    );
  }

  /** The colour picture of a finish, placed as its map says; it appears when it has come. */
  textureOf(map: FinishMap, hash: string): THREE.Texture {
    const matrix = mapMatrix(map);
    const key = `${hash}/${matrix.join()}`;
    let texture = this.textures.get(key);
    if (texture) return texture;
    texture = new THREE.TextureLoader().load(blobUrl(hash), this.arrived);
    texture.colorSpace = map.coding === 'srgb' ? THREE.SRGBColorSpace : THREE.NoColorSpace;
    texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
    texture.flipY = false;
    texture.matrixAutoUpdate = false;
    const [a, b, c, d, e, f] = matrix;
    texture.matrix.set(a, b, c, d, e, f, 0, 0, 1);
    this.textures.set(key, texture);
    return texture;
  }
}
