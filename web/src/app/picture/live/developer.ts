import * as THREE from 'three';
import type { Look } from '@zippy/core/document';
import { grade, type LookupTable } from '@zippy/core/develop';

/** Steps of the table along each channel. */
const STEPS = 33;
/** Light that the table reaches, and how fine it is where light is dim: places go by log(1 + FINE · light). */
const REACH = 64;
const FINE = 400;

/** Develops what was drawn in linear light as the look says, and outlines what is selected. */
export class Developer {
  private readonly quad: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>;
  private readonly camera = new THREE.Camera();
  private key = '';

  constructor() {
    const surface = new THREE.BufferGeometry();
    surface.setAttribute('position', new THREE.BufferAttribute(new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3));
    const table = new THREE.Data3DTexture(new Uint8Array(4), 1, 1, 1);
    const material = new THREE.ShaderMaterial({
      depthFunc: THREE.AlwaysDepth,
      blending: THREE.NoBlending,
      uniforms: {
        light: { value: null },
        depth: { value: null },
        chosen: { value: null },
        outlined: { value: 0 },
        outline: { value: new THREE.Color() },
        pixel: { value: new THREE.Vector2() },
        table: { value: table },
        checker: { value: 10 },
      },
      vertexShader:
        'varying vec2 at; void main() { at = position.xy * 0.5 + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }',
      fragmentShader: /* glsl */ `
        precision highp float;
        precision highp sampler3D;
        varying vec2 at;
        uniform sampler2D light, depth, chosen;
        uniform sampler3D table;
        uniform float outlined, checker;
        uniform vec3 outline;
        uniform vec2 pixel;
        void main() {
          vec4 linear = texture2D(light, at);
          vec3 plain = linear.rgb / max(linear.a, 0.001);
          vec3 place = log2(1.0 + ${FINE}.0 * clamp(plain, 0.0, ${REACH}.0)) / log2(1.0 + ${FINE}.0 * ${REACH}.0);
          vec3 seen = texture(table, place * ${(STEPS - 1) / STEPS} + ${0.5 / STEPS}).rgb;
          vec2 square = floor(gl_FragCoord.xy / checker);
          seen = mix(vec3(mod(square.x + square.y, 2.0) < 0.5 ? 0.22 : 0.28), seen, linear.a);
          if (outlined > 0.5) {
            float own = texture2D(chosen, at).r, most = own;
            for (int k = 0; k < 8; k++) {
              float angle = float(k) * 0.785398;
              most = max(most, texture2D(chosen, at + 2.0 * pixel * vec2(cos(angle), sin(angle))).r);
            }
            seen = mix(seen, outline, most - own);
          }
          gl_FragColor = vec4(seen, 1.0);
          gl_FragDepth = texture2D(depth, at).r;
        }`,
    });
    this.quad = new THREE.Mesh(surface, material);
    this.quad.frustumCulled = false;
  }

  get example(): THREE.Material {
    return this.quad.material;
  }

  /** Takes the look by which light becomes colours; the table is made anew only where something of it has changed. */
  show(look: Look, lookup: LookupTable | null): void {
    const key = JSON.stringify(look) + (lookup ? 'table' : '');
    if (key === this.key) return;
    this.key = key;
    const { uniforms } = this.quad.material;
    (uniforms['table']!.value as THREE.Texture).dispose();
    uniforms['table']!.value = tableOf(look, lookup);
  }

  /** @param chosen what is selected, white on black; null for nothing @param to null for the canvas */
  develop(
    renderer: THREE.WebGLRenderer,
    from: THREE.WebGLRenderTarget,
    chosen: THREE.Texture | null,
    outline: number,
    to: THREE.WebGLRenderTarget | null,
  ): void {
    const { uniforms } = this.quad.material;
    uniforms['light']!.value = from.texture;
    uniforms['depth']!.value = from.depthTexture;
    uniforms['chosen']!.value = chosen;
    uniforms['outlined']!.value = chosen ? 1 : 0;
    (uniforms['outline']!.value as THREE.Color).setHex(outline, THREE.LinearSRGBColorSpace);
    (uniforms['pixel']!.value as THREE.Vector2).set(1 / from.width, 1 / from.height);
    renderer.setRenderTarget(to);
    renderer.render(this.quad, this.camera);
  }
}

function tableOf(look: Look, lookup: LookupTable | null): THREE.Data3DTexture {
  const light = new Float32Array(STEPS ** 3 * 4);
  const value = (k: number) => ((1 + FINE * REACH) ** (k / (STEPS - 1)) - 1) / FINE;
  const steps = Array.from({ length: STEPS }, (_, k) => value(k));
  let at = 0;
  for (let b = 0; b < STEPS; b++)
    for (let g = 0; g < STEPS; g++)
      for (let r = 0; r < STEPS; r++) {
        light.set([steps[r]!, steps[g]!, steps[b]!, 1], at);
        at += 4;
      }
  const coded = grade(light, look, lookup);
  const texture = new THREE.Data3DTexture(
    Uint8Array.from(coded, (v) => Math.min(255, Math.max(0, Math.round(v * 255)))),
    STEPS,
    STEPS,
    STEPS,
  );
  texture.format = THREE.RGBAFormat;
  texture.type = THREE.UnsignedByteType;
  texture.minFilter = texture.magFilter = THREE.LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}
