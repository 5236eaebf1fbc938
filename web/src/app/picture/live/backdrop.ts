import * as THREE from 'three';
import type { FrameState } from '@zippy/core/motion';
import type { LightRig } from './light-rig';
import { surroundingsChunk } from './surface-shader';

const KINDS = { surroundings: 0, color: 1, picture: 2, plate: 3, transparent: 4 } as const;

/** What is seen behind all that stands in a set. */
export class Backdrop {
  readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>;

  constructor(private readonly rig: LightRig) {
    const surface = new THREE.BufferGeometry();
    surface.setAttribute('position', new THREE.BufferAttribute(new Float32Array([-1, -1, 1, 3, -1, 1, -1, 3, 1]), 3));
    const { levels, toSurroundings, gain } = rig.uniforms;
    const material = new THREE.ShaderMaterial({
      depthWrite: false,
      depthTest: false,
      blending: THREE.NoBlending,
      uniforms: {
        levels: { value: levels.value },
        ground: { value: new THREE.Vector4() },
        groundLight: { value: new THREE.Vector3() },
        toSurroundings: { value: toSurroundings.value },
        gain: { value: gain.value },
        kind: { value: 0 },
        color: { value: new THREE.Vector3() },
        plate: { value: null },
        fit: { value: new THREE.Vector4(1, 1, 0, 0) },
        toWorld: { value: new THREE.Matrix4() },
        air: { value: rig.uniforms.air.value },
        airLight: { value: rig.uniforms.airLight.value },
      },
      vertexShader: /* glsl */ `
        varying vec2 at;
        varying vec3 direction;
        uniform mat4 toWorld;
        void main() {
          at = position.xy;
          vec4 far = toWorld * vec4(position.xy, 1.0, 1.0);
          direction = far.xyz / far.w - cameraPosition;
          gl_Position = vec4(position.xy, 0.99999, 1.0);
        }`,
      fragmentShader: /* glsl */ `
        precision highp float;
        precision highp sampler2DArray;
        varying vec2 at;
        varying vec3 direction;
        uniform int kind;
        uniform vec3 color, air, airLight;
        uniform sampler2D plate;
        uniform vec4 fit;
        ${surroundingsChunk}
        void main() {
          vec3 seen = color;
          if (kind == ${KINDS.surroundings} || kind == ${KINDS.picture}) seen = fromAround(normalize(direction), 0.0);
          if (kind == ${KINDS.plate}) seen *= texture2D(plate, vec2(0.5 + at.x * fit.x, 0.5 - at.y * fit.y)).rgb;
          if (air.z > 0.5) {
            float passes = exp(-air.x * air.y);
            seen = seen * passes + airLight * (1.0 - passes);
          }
          gl_FragColor = kind == ${KINDS.transparent} ? vec4(0.0) : vec4(seen, 1.0);
        }`,
    });
    this.mesh = new THREE.Mesh(surface, material);
    this.mesh.frustumCulled = false;
    this.mesh.renderOrder = -1000;
  }

  /**
   * @param around picture all around that is seen instead of the surroundings; null where there is none
   * @param frame how wide the canvas is against the film's frame, across and down
   */
  show(
    { set: { behind } }: Pick<FrameState, 'set'>,
    around: THREE.DataArrayTexture | null,
    plate: THREE.Texture | null,
    frame: { across: number; down: number; aspect: number },
  ): void {
    const { uniforms } = this.mesh.material;
    const kind = (behind.kind === 'plate' && !plate) || (behind.kind === 'picture' && !around) ? 'color' : behind.kind;
    const black = kind !== behind.kind;
    uniforms['kind']!.value = KINDS[kind];
    const { levels, toSurroundings, gain } = this.rig.uniforms;
    if (kind === 'picture') {
      uniforms['levels']!.value = around;
      const [c, s] = [Math.cos(behind.turn), Math.sin(behind.turn)];
      uniforms['toSurroundings']!.value = new THREE.Matrix3().set(c, 0, -s, 0, 1, 0, s, 0, c);
      uniforms['gain']!.value = new THREE.Vector3().setScalar(behind.brightness);
    } else {
      uniforms['levels']!.value = levels.value;
      uniforms['toSurroundings']!.value = toSurroundings.value;
      uniforms['gain']!.value = gain.value;
    }
    const color = uniforms['color']!.value as THREE.Vector3;
    if (kind === 'plate') color.setScalar(behind.brightness);
    else if (black) color.setScalar(0);
    else color.set(...behind.color);
    uniforms['plate']!.value = plate;
    if (!plate?.image) return;
    // As much of the plate as fills the film's frame; what lies beyond is seen outside of the mask.
    const { width, height } = plate.image as { width: number; height: number };
    const wider = frame.aspect / (width / height);
    (uniforms['fit']!.value as THREE.Vector4).set(
      0.5 * Math.min(1, wider) * frame.across,
      0.5 * Math.min(1, 1 / wider) * frame.down,
      0,
      0,
    );
  }

  aim(camera: THREE.Camera): void {
    const toWorld = this.mesh.material.uniforms['toWorld']!.value as THREE.Matrix4;
    toWorld.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
  }
}
