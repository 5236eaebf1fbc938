import * as THREE from 'three';
import type { Camera } from '@zippy/core/document';
import { lensRadius, tanHalfWidth } from '@zippy/core/optics';

/** Parts of the picture's width over which a point may be blurred: sharp up to the first, wholly veiled from the second on. */
const SHARP = 1 / 1500;
const BLURRED = 1 / 150;

/** Lies over what is drawn: sea green where it is sharp, grey the more it is out of focus (circle of confusion, core/optics/lens). */
export class FocusVeil {
  readonly material = new THREE.ShaderMaterial({
    uniforms: {
      aperture: { value: 0 },
      focus: { value: 1 },
      width: { value: 1 },
      surround: { value: new THREE.Color() },
    },
    vertexShader: `
      varying float away;
      void main() {
        #include <begin_vertex>
        #include <project_vertex>
        away = -mvPosition.z;
      }`,
    fragmentShader: `
      uniform float aperture, focus, width;
      uniform vec3 surround;
      varying float away;
      void main() {
        float blur = aperture * abs(away - focus) / (away * width);
        float veil = smoothstep(${SHARP}, ${BLURRED}, blur);
        gl_FragColor = vec4(mix(vec3(0.08, 0.62, 0.43), surround, step(${SHARP}, blur)), mix(0.22, 0.85 * veil, step(${SHARP}, blur)));
        #include <colorspace_fragment>
      }`,
    transparent: true,
    depthWrite: false,
    side: THREE.DoubleSide,
    // Both passes may come out a rounding apart in depth.
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -4,
  });

  /** @param surround what blurred places go towards */
  aim(camera: Camera, surround: string): void {
    const { aperture, focus, width, surround: color } = this.material.uniforms;
    const parallel = camera.projection === 'orthographic';
    aperture!.value = parallel ? 0 : 2 * lensRadius(camera);
    focus!.value = camera.focusDistance;
    // Of what the picture shows in the plane in focus, millimetres.
    width!.value = 2 * tanHalfWidth(camera) * camera.focusDistance;
    (color!.value as THREE.Color).set(surround);
  }

  /** Draws objects of a scene once more, veiled, over what is there. */
  draw(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    camera: THREE.Camera,
    veiled: readonly THREE.Object3D[],
  ): void {
    const others = scene.children.filter((each) => each.visible && !veiled.includes(each));
    for (const each of others) each.visible = false;
    scene.overrideMaterial = this.material;
    renderer.render(scene, camera);
    scene.overrideMaterial = null;
    for (const each of others) each.visible = true;
  }
}
