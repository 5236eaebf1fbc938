import * as THREE from 'three';
import { lampKind } from '@zippy/core/optics';
import type { LightRig, ShiningLamp } from './light-rig';
import { depthVertex, MOST_SHADOWS } from './surface-shader';

/** Depth of what the brightest lamps see of the product: what lies behind that is in their shadow. */
export class LampShadows {
  private readonly maps: THREE.WebGLRenderTarget[] = [];
  private readonly camera = new THREE.PerspectiveCamera();
  /** Draws depth alone. */
  readonly material = new THREE.ShaderMaterial({
    vertexShader: depthVertex,
    fragmentShader: 'void main() { gl_FragColor = vec4(1.0); }',
    side: THREE.DoubleSide,
    colorWrite: false,
  });

  constructor(
    private readonly rig: LightRig,
    size: number,
  ) {
    for (let k = 0; k < MOST_SHADOWS; k++) {
      const map = new THREE.WebGLRenderTarget(size, size);
      map.depthTexture = new THREE.DepthTexture(size, size, THREE.UnsignedIntType);
      map.depthTexture.minFilter = map.depthTexture.magFilter = THREE.NearestFilter;
      this.maps.push(map);
    }
    rig.uniforms.shadowMap0.value = this.maps[0]!.depthTexture;
    rig.uniforms.shadowMap1.value = this.maps[1]!.depthTexture;
  }

  /** Draws the maps of lamps anew. @param product the ball that holds all that casts shadows */
  draw(
    renderer: THREE.WebGLRenderer,
    casting: THREE.Object3D,
    lamps: readonly ShiningLamp[],
    product: THREE.Sphere,
  ): void {
    if (product.radius <= 0) return;
    const scene = new THREE.Scene();
    const { parent } = casting;
    scene.overrideMaterial = this.material;
    scene.add(casting);
    for (const { light, map } of lamps) {
      if (map < 0) continue;
      this.aim(light, product, map);
      renderer.setRenderTarget(this.maps[map]!);
      renderer.clear();
      renderer.render(scene, this.camera);
    }
    renderer.setRenderTarget(null);
    parent?.add(casting);
  }

  private aim(light: ShiningLamp['light'], { center, radius }: THREE.Sphere, map: number): void {
    const kind = lampKind(light);
    const towards = new THREE.Vector3(...light.position);
    if (kind.far)
      towards
        .sub(new THREE.Vector3(...light.target))
        .normalize()
        .multiplyScalar(radius * 40)
        .add(center);
    const distance = Math.max(radius * 1.05, towards.distanceTo(center));
    this.camera.position.copy(towards);
    this.camera.up.set(0, 1, 0);
    if (Math.abs(towards.x - center.x) + Math.abs(towards.z - center.z) < 1e-3 * distance) this.camera.up.set(0, 0, 1);
    this.camera.lookAt(center);
    this.camera.fov = Math.min(150, (2.1 * Math.asin(Math.min(0.95, radius / distance)) * 180) / Math.PI);
    this.camera.near = Math.max(distance * 0.02, distance - radius * 1.05);
    this.camera.far = distance + radius * 12;
    this.camera.updateProjectionMatrix();
    this.camera.updateMatrixWorld();
    const { shadowMatrix, shadowSoft } = this.rig.uniforms;
    shadowMatrix.value[map]!.multiplyMatrices(this.camera.projectionMatrix, this.camera.matrixWorldInverse);
    // The lamp's size as the map's plane shows it at a distance of one.
    const size = kind.far ? Math.tan(light.angularSize / 2) : kind.reach(light) / distance;
    const shown = size / Math.tan((this.camera.fov * Math.PI) / 360);
    shadowSoft.value[map]!.set(shown, radius * 0.012, this.camera.near, this.camera.far);
  }
}
