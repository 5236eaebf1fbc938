import * as THREE from 'three';
import type { Light } from '@zippy/core/document';
import { cutOf, multiplyTransforms, subtract } from '@zippy/core/geometry';
import {
  harmonics as harmonicsOf,
  lampFrame,
  lampKind,
  lampRadiance,
  lightColor,
  LUMENS_PER_WATT,
  REFLECTION_BLURS,
  shiningLamp,
  surroundingsGain,
} from '@zippy/core/optics';
import type { FrameState } from '@zippy/core/motion';
import { skySun } from '@zippy/core/trace';
import { matrixOf } from '../../meshes/sketch-geometry';
import {
  LAMP_BALL,
  LAMP_SHEET,
  LAMP_SPOT,
  LAMP_SUN,
  LAMP_TUBE,
  MOST_CUTS,
  MOST_LAMPS,
  MOST_SHADOWS,
} from './surface-shader';

/** The light of surroundings, as a thread has made it; see surroundingsLight. */
export interface SurroundingsLight {
  width: number;
  height: number;
  levels: Float32Array;
  harmonics: Float32Array;
}

const KINDS: Record<Light['kind'], number> = {
  panel: LAMP_SHEET,
  disc: LAMP_SHEET,
  tube: LAMP_TUBE,
  bulb: LAMP_BALL,
  spot: LAMP_SPOT,
  sun: LAMP_SUN,
  card: LAMP_SHEET,
};

/** A lamp that gives a frame some of its light. */
export interface ShiningLamp {
  light: Light;
  /** Number of its shadow map, -1 for none. */
  map: number;
}

/** All the light of one scene, as numbers that its materials share. */
export class LightRig {
  readonly uniforms = {
    levels: { value: emptyLevels() },
    toSurroundings: { value: new THREE.Matrix3() },
    gain: { value: new THREE.Vector3(0.35, 0.36, 0.38) },
    ground: { value: new THREE.Vector4() },
    groundLight: { value: new THREE.Vector3() },
    harmonics: {
      value: Array.from({ length: 9 }, (_, k) => new THREE.Vector3().setScalar(k === 0 ? Math.PI / 0.282095 : 0)),
    },
    lampCount: { value: 0 },
    lampPlace: { value: vectors(MOST_LAMPS) },
    lampX: { value: vectors(MOST_LAMPS) },
    lampY: { value: vectors(MOST_LAMPS) },
    lampLight: { value: Array.from({ length: MOST_LAMPS }, () => new THREE.Vector3()) },
    lampShape: { value: vectors(MOST_LAMPS) },
    air: { value: new THREE.Vector3() },
    airLight: { value: new THREE.Vector3() },
    shadowMap0: { value: null as THREE.Texture | null },
    shadowMap1: { value: null as THREE.Texture | null },
    shadowMatrix: { value: Array.from({ length: MOST_SHADOWS }, () => new THREE.Matrix4()) },
    shadowSoft: { value: vectors(MOST_SHADOWS) },
    shadowTaps: { value: 0 },
    quick: { value: false },
    cuts: { value: Array.from({ length: MOST_CUTS }, () => new THREE.Matrix4()) },
    cutsRound: { value: Array<boolean>(MOST_CUTS).fill(false) },
    cutCount: { value: 0 },
    shade: { value: 1 },
  };
  private shown: SurroundingsLight | null = null;

  /** Takes the lamps, surroundings and air of a frame. @param center of the product, by which lamps are weighed */
  show(frame: FrameState, center: THREE.Vector3): ShiningLamp[] {
    const { set } = frame;
    const { surroundings, air } = set;
    const gain = surroundingsGain(surroundings);
    this.uniforms.gain.value.set(...gain);
    const { turn, tilt } = surroundings;
    const [ct, st, ci, si] = [Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt)];
    // Rows of meetSurroundings.
    this.uniforms.toSurroundings.value.set(ct, 0, -st, si * st, ci, si * ct, ci * st, -si, ci * ct);
    const around = this.uniforms.harmonics.value[0]!.clone()
      .multiplyScalar(0.282095 / Math.PI)
      .multiply(this.uniforms.gain.value);
    this.uniforms.air.value.set(air.density / 1000, air.reach, air.density > 0 ? 1 : 0);
    this.uniforms.airLight.value.set(...air.color).multiply(around);
    const lamps = shining(frame, center);
    this.uniforms.lampCount.value = lamps.length;
    lamps.forEach((lamp, k) => this.put(k, lamp));
    this.showGround(set, lamps, center);
    this.showCuts(frame);
    return lamps;
  }

  /** Takes what a thread has made of the surroundings. */
  take(light: SurroundingsLight | null): void {
    if (light === this.shown || !light) return;
    this.shown = light;
    this.uniforms.levels.value.dispose();
    this.uniforms.levels.value = levelsTexture(light);
    this.uniforms.harmonics.value.forEach((each, k) => each.fromArray(light.harmonics, k * 3));
  }

  /** Openings in the ground, and how strong shadows are on what is seen behind. */
  private showCuts({ parts, set }: FrameState): void {
    const { cuts, cutsRound, cutCount, shade } = this.uniforms;
    shade.value = set.behind.shade;
    cutCount.value = 0;
    for (const { mesh, transform } of parts) {
      const cut = 'piece' in mesh ? cutOf(mesh.piece) : null;
      if (!cut || cutCount.value === MOST_CUTS) continue;
      cuts.value[cutCount.value]!.copy(matrixOf(multiplyTransforms(transform, cut.body))).invert();
      cutsRound.value[cutCount.value++] = cut.kind === 'cylinder';
    }
  }

  /** The floor as other things mirror it: one colour, that of what it gets under the product. */
  private showGround({ floor }: FrameState['set'], lamps: readonly ShiningLamp[], center: THREE.Vector3): void {
    const { ground, groundLight, harmonics, gain } = this.uniforms;
    ground.value.set(
      floor.kind === 'none' ? 0 : 1,
      floor.size / 2,
      -floor.depth,
      floor.kind === 'sweep' ? floor.size / 2 : 0,
    );
    const under = new THREE.Vector3(center.x, 0, center.z);
    const up = harmonicsOf([0, 1, 0]);
    const got = new THREE.Vector3();
    harmonics.value.forEach((each, k) => got.addScaledVector(each, up[k]!));
    got.multiply(gain.value).max(new THREE.Vector3());
    for (const { light } of lamps) {
      const color = new THREE.Vector3(...lightColor(light.kelvin, light.tint));
      got.addScaledVector(color, strengthOnFloor(light, under));
    }
    groundLight.value
      .copy(got)
      .divideScalar(Math.PI)
      .multiply(new THREE.Vector3(...floor.color));
  }

  private put(k: number, { light, map }: ShiningLamp): void {
    const { lampPlace, lampX, lampY, lampLight, lampShape } = this.uniforms;
    const kind = lampKind(light);
    const towards = subtract(light.position, light.target);
    const { x, y } = lampFrame(light);
    lampPlace.value[k]!.set(...(kind.far ? towards : light.position), KINDS[light.kind]);
    const round = light.kind === 'disc' ? Math.sqrt(Math.PI) / 2 : 1;
    const [halfX, halfY] =
      light.kind === 'tube' ? [light.width / 2, light.radius] : kind.halves(light).map((v) => v * round);
    lampX.value[k]!.set(...(x.map((v) => v * halfX!) as [number, number, number]), map);
    lampY.value[k]!.set(...(y.map((v) => v * halfY!) as [number, number, number]), kind.shape?.(light).grid ?? 0);
    const radiance = lampRadiance(light) * (kind.mean?.(light) ?? 1);
    lampLight.value[k]!.set(...lightColor(light.kelvin, light.tint)).multiplyScalar(radiance);
    const { cosOuter = -1, cosInner = -1 } = kind.shape?.(light) ?? {};
    const radius = kind.far ? Math.sin(light.angularSize / 2) : light.radius;
    const area = kind.far ? Math.PI * radius ** 2 : (kind.facing ?? kind.area)(light);
    lampShape.value[k]!.set(cosOuter, cosInner, radius, area);
  }
}

/** Lamps that are on, the brightest at the product first, as many as the sketch draws; the first that cast shadows get maps. */
function shining(frame: FrameState, center: THREE.Vector3): ShiningLamp[] {
  const { turn, tilt } = frame.set.surroundings;
  const lit = [...frame.lights.map(nearCard), ...skySun(frame, turn, tilt)].filter(({ on, power }) => on && power > 0);
  const ranked = lit
    .map((light) => ({ light, strength: strengthAt(light, center) }))
    .sort((a, b) => b.strength - a.strength)
    .slice(0, MOST_LAMPS);
  let maps = 0;
  return ranked.map(({ light }) => ({
    light,
    map: light.castsShadows && light.kind !== 'bulb' && maps < MOST_SHADOWS ? maps++ : -1,
  }));
}

/** Cards stand as far away as the precision of the card's shadow allows: some way beyond the product. */
const nearCard = (light: Light): Light =>
  shiningLamp(light, 60 * Math.max(1e-3, Math.hypot(...subtract(light.position, light.target))));

/** Irradiance about the product, which tells whose shadows are seen. */
function strengthAt(light: Light, center: THREE.Vector3): number {
  const kind = lampKind(light);
  if (kind.far) return light.power / LUMENS_PER_WATT;
  const distance = Math.max(1, center.distanceTo(new THREE.Vector3(...light.position)));
  const area = (kind.facing ?? kind.area)(light);
  return (lampRadiance(light) * area) / (distance ** 2 + area);
}

/** Irradiance that the floor gets from a lamp, as from a point. */
function strengthOnFloor(light: Light, place: THREE.Vector3): number {
  const kind = lampKind(light);
  const from = new THREE.Vector3(...light.position);
  const axis = from
    .clone()
    .sub(new THREE.Vector3(...light.target))
    .normalize();
  if (kind.far) return (light.power / LUMENS_PER_WATT) * Math.max(0, axis.y);
  const way = from.sub(place);
  const distance = Math.max(1, way.length());
  const leaves = kind.around ? 1 : Math.max(0, axis.dot(way) / distance);
  const area = (kind.facing ?? kind.area)(light);
  const fade = light.kind === 'spot' && leaves < (kind.shape?.(light).cosOuter ?? -1) ? 0 : 1;
  return (
    (fade * lampRadiance(light) * (kind.mean?.(light) ?? 1) * area * leaves * Math.max(0, way.y / distance)) /
    (distance ** 2 + area)
  );
}

const vectors = (count: number): THREE.Vector4[] => Array.from({ length: count }, () => new THREE.Vector4());

export function levelsTexture({ width, height, levels }: Omit<SurroundingsLight, 'harmonics'>): THREE.DataArrayTexture {
  const halves = Uint16Array.from(levels, (value) => THREE.DataUtils.toHalfFloat(Math.min(65504, value)));
  const texture = new THREE.DataArrayTexture(halves, width, height, REFLECTION_BLURS.length);
  texture.format = THREE.RGBAFormat;
  texture.type = THREE.HalfFloatType;
  texture.minFilter = texture.magFilter = THREE.LinearFilter;
  texture.wrapS = THREE.RepeatWrapping;
  texture.needsUpdate = true;
  return texture;
}

/** White from everywhere, until the surroundings have come. */
const emptyLevels = (): THREE.DataArrayTexture =>
  levelsTexture({
    width: 1,
    height: 1,
    levels: new Float32Array(REFLECTION_BLURS.length * 4).fill(1),
  });
