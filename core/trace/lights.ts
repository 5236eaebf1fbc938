import * as L from '@zippy/kernel/layout';
import type { Light } from '../document';
import { centreOf, subtract } from '../geometry';
import type { FrameState } from '../motion';
import { lightOf } from '../scene';
import { lampFrame, lampKind, lampRadiance, lightColor, luminance, sunLight, turnSurroundings } from '../optics';
import { findGuides, findLensGuides, type View } from './guides';
import type { Instance } from './instances';
import { lampBounds, partBounds } from './lightBounds';
import { buildLightTree } from './lightTree';
import type { KernelHeap } from '@zippy/kernel/host';

/** Which light layer each light belongs to. */
export interface LightGroups {
  names: string[];
  surroundings: number;
  of(light: Light): number;
  ofFinish(name: string): number;
}

/** Light layers of a frame: the surroundings first, then lamps by their group or own name, then luminous parts by finish. */
export function lightGroups(lights: Pick<Light, 'id' | 'name' | 'group'>[], luminous: { name: string }[]): LightGroups {
  const names = ['Surroundings'];
  const places = new Map<string, number>();
  const place = (key: string, wished: string): number => {
    const known = places.get(key);
    if (known !== undefined) return known;
    // Beyond the most, lights share the last layer: nothing is lost from the sum.
    if (names.length >= L.MOST_GROUPS) return names.length - 1;
    let name = wished;
    for (let k = 2; names.includes(name); k++) name = `${wished} ${k}`;
    places.set(key, names.length);
    names.push(name);
    return names.length - 1;
  };
  const key = (light: Pick<Light, 'id' | 'group'>) =>
    light.group === '' ? `light ${lightOf(light.id)}` : `group ${light.group}`;
  for (const light of lights) place(key(light), light.group === '' ? light.name : light.group);
  for (const { name } of luminous) place(`finish ${name}`, name);
  return {
    names,
    surroundings: 0,
    of: (light) => places.get(key(light)) ?? names.length - 1,
    ofFinish: (name) => places.get(`finish ${name}`) ?? names.length - 1,
  };
}

/** The sun of an analytic sky as a light of its own, or none. */
export function skySun({ set: { surroundings } }: FrameState, turn: number, tilt: number): Light[] {
  const { sky, kind, brightness, tint } = surroundings;
  if (kind !== 'sky' || !sky.sun) return [];
  const { lux, kelvin } = sunLight(sky);
  // A lamp's tint keeps its power, that of surroundings multiplies their light: the sun's power takes what is lost.
  const [r, g, b] = lightColor(kelvin, [1, 1, 1]);
  const power = lux * brightness * luminance([r * tint[0], g * tint[1], b * tint[2]]);
  if (power <= 0) return [];
  const towards = turnSurroundings([0, Math.sin(sky.elevation), Math.cos(sky.elevation)], turn, tilt);
  return [
    {
      id: 'sky-sun',
      name: 'Sun of the sky',
      order: 0,
      kind: 'sun',
      on: true,
      solo: false,
      parent: null,
      position: towards.map((v) => v * 1000) as [number, number, number],
      target: [0, 0, 0],
      power,
      unit: 'lux',
      kelvin,
      tint,
      width: 1,
      height: 1,
      radius: 1,
      gradient: 0,
      softEdge: 0,
      roll: 0,
      spanWidth: 1,
      spanHeight: 1,
      round: false,
      coneAngle: 1,
      penumbra: 0,
      gridAngle: 0,
      angularSize: 0.0093,
      visibleToCamera: true,
      castsShadows: true,
      group: '',
      aimOn: null,
      track: null,
      reaches: 'all',
      parts: [],
    },
  ];
}

export interface WrittenLights {
  at: number;
  count: number;
  lamps: number;
  locals: number;
  /** 0 where nothing but sun and surroundings shines. */
  tree: number;
  guides: number;
  guideCount: number;
  lensGuides: number;
  lensGuideCount: number;
}

/**
 * Writes the lights of one moment: lamps, then luminous parts, then suns, then the surroundings; the tree over the first two,
 * and guides to what shines from within clear matter or far out of focus.
 */
export function writeLights(
  heap: KernelHeap,
  lights: Light[],
  instances: Instance[],
  instancesAt: number,
  groups: LightGroups,
  links: (light: Light) => number,
  skyIrradiance: number,
  view: View,
): WrittenLights {
  const lamps = lights.filter((light) => !lampKind(light).far);
  const suns = lights.filter((light) => lampKind(light).far);
  const luminous = instances.flatMap((instance, index) => (instance.intensity > 0 ? [{ instance, index }] : []));
  const bounds = [...lamps.map(lampBounds), ...luminous.map(({ instance }) => partBounds(instance))];
  const locals = bounds.length;
  const count = locals + suns.length + 1;
  const tree = buildLightTree(bounds);
  const guides = findGuides(instances, lamps);
  const lensGuides = findLensGuides(luminous, lamps, view);
  const at = heap.allocate(count * L.LIGHT_SIZE);
  const treeAt = tree ? heap.allocate(tree.nodes * L.LIGHT_NODE_SIZE) : 0;
  const guidesAt = heap.allocate(Math.max(1, guides.length + lensGuides.length) * L.GUIDE_SIZE);
  const { f32, u32, i32 } = heap.views();
  u32.fill(0, at / 4, (at + count * L.LIGHT_SIZE) / 4);
  lamps.forEach((light, k) => writeLamp(f32, u32, at + k * L.LIGHT_SIZE, light, groups.of(light), links(light)));
  luminous.forEach(({ instance, index }, k) => {
    const light = lamps.length + k;
    const record = at + light * L.LIGHT_SIZE;
    i32[(instancesAt + index * L.INSTANCE_SIZE + L.INSTANCE_LIGHT) / 4] = light;
    u32[(record + L.LIGHT_KIND) / 4] = L.KIND_PART;
    f32.set(instance.emission, (record + L.LIGHT_EMISSION) / 4);
    f32.set(centreOf(instance.box), (record + L.LIGHT_POSITION) / 4);
    u32[(record + L.LIGHT_INSTANCE) / 4] = index;
    u32[(record + L.LIGHT_GROUP) / 4] = groups.ofFinish(instance.finishName);
  });
  suns.forEach((light, k) =>
    writeSun(f32, u32, at + (locals + k) * L.LIGHT_SIZE, light, groups.of(light), links(light)),
  );
  const surroundings = at + (count - 1) * L.LIGHT_SIZE;
  u32[(surroundings + L.LIGHT_KIND) / 4] = L.KIND_SURROUNDINGS;
  f32[(surroundings + L.LIGHT_WEIGHT) / 4] = skyIrradiance;
  u32[(surroundings + L.LIGHT_GROUP) / 4] = groups.surroundings;
  bounds.forEach(({ intensity }, k) => (f32[(at + k * L.LIGHT_SIZE + L.LIGHT_WEIGHT) / 4] = intensity));
  tree?.trails.forEach((trail, k) => (u32[(at + k * L.LIGHT_SIZE + L.LIGHT_TRAIL) / 4] = trail));
  tree?.write(f32, u32, treeAt);
  guides.forEach(({ centre, radius, intensity, within }, k) =>
    f32.set([...centre, radius, intensity, within], (guidesAt + k * L.GUIDE_SIZE) / 4),
  );
  lensGuides.forEach(({ centre, radius, intensity, slopes, around }, k) =>
    f32.set(
      [...centre, radius, intensity, ...slopes, around ** 2],
      (guidesAt + (guides.length + k) * L.GUIDE_SIZE) / 4,
    ),
  );
  return {
    at,
    count,
    lamps: lamps.length,
    locals,
    tree: treeAt,
    guides: guidesAt,
    guideCount: guides.length,
    lensGuides: guidesAt + guides.length * L.GUIDE_SIZE,
    lensGuideCount: lensGuides.length,
  };
}

function writeCommon(f32: Float32Array, u32: Uint32Array, at: number, light: Light, group: number, link: number): void {
  const color = lightColor(light.kelvin, light.tint);
  const radiance = lampRadiance(light);
  u32[(at + L.LIGHT_KIND) / 4] = lampKind(light).code;
  u32[(at + L.LIGHT_FLAGS) / 4] =
    (light.visibleToCamera ? L.LIGHT_SEEN : 0) | (light.castsShadows ? 0 : L.LIGHT_SHADOWLESS) | link;
  f32.set(
    color.map((v) => v * radiance),
    (at + L.LIGHT_EMISSION) / 4,
  );
  u32[(at + L.LIGHT_GROUP) / 4] = group;
}

function writeLamp(f32: Float32Array, u32: Uint32Array, at: number, light: Light, group: number, link: number): void {
  writeCommon(f32, u32, at, light, group, link);
  const { x, y, z } = lampFrame(light);
  const kind = lampKind(light);
  const [halfX, halfY] = kind.halves(light);
  f32.set(light.position, (at + L.LIGHT_POSITION) / 4);
  f32.set(
    x.map((v) => v * halfX),
    (at + L.LIGHT_X) / 4,
  );
  f32.set(
    y.map((v) => v * halfY),
    (at + L.LIGHT_Y) / 4,
  );
  f32.set(z, (at + L.LIGHT_NORMAL) / 4);
  f32[(at + L.LIGHT_RADIUS) / 4] = light.radius;
  const { gradient = 0, softEdge = 0, cosOuter = 0, cosInner = 0, grid = 0 } = kind.shape?.(light) ?? {};
  f32[(at + L.LIGHT_GRADIENT) / 4] = gradient;
  f32[(at + L.LIGHT_SOFT) / 4] = softEdge;
  f32[(at + L.LIGHT_COS_OUTER) / 4] = cosOuter;
  f32[(at + L.LIGHT_COS_INNER) / 4] = cosInner;
  f32[(at + L.LIGHT_GRID) / 4] = grid;
}

function writeSun(f32: Float32Array, u32: Uint32Array, at: number, light: Light, group: number, link: number): void {
  writeCommon(f32, u32, at, light, group, link);
  const away = subtract(light.position, light.target);
  const size = Math.hypot(...away) || 1;
  f32.set(
    away.map((v) => v / size),
    (at + L.LIGHT_NORMAL) / 4,
  );
  f32[(at + L.LIGHT_COS_OUTER) / 4] = lampKind(light).shape!(light).cosOuter!;
  f32[(at + L.LIGHT_WEIGHT) / 4] = lampRadiance(light) * Math.PI * Math.sin(light.angularSize / 2) ** 2;
}
