import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';
import {
  BLENDS,
  isColorSlot,
  mapMatrix,
  PROJECTIONS,
  type Camera,
  type Finish,
  type FinishMap,
  type MapSlot,
} from '../document';
import { quaternionFromTurn, rotateVector } from '../geometry';
import { aboutSource, tanHalfWidth } from '../optics';
import { cameraAxes } from '../scene';

/** A map whose picture, where it has one, is in kernel memory. */
export interface LoadedMap {
  map: FinishMap;
  /** Address of the loaded texture. */
  data: number;
}

/** Places in the kernel's finish of what maps drive; of a picture of normals, where the tilt goes. */
const TARGETS: Record<MapSlot, number> = {
  baseColor: L.FINISH_BASE,
  baseMetalness: L.FINISH_METALNESS,
  baseDiffuseRoughness: L.FINISH_DIFFUSE_ROUGHNESS,
  specularWeight: L.FINISH_SPECULAR,
  specularColor: L.FINISH_SPECULAR_COLOR,
  specularRoughness: L.FINISH_ROUGHNESS,
  specularRoughnessAnisotropy: L.FINISH_ANISOTROPY,
  specularRotation: L.FINISH_ROTATION,
  transmissionWeight: L.FINISH_TRANSMISSION,
  transmissionColor: L.FINISH_TINT,
  subsurfaceWeight: L.FINISH_SUBSURFACE,
  subsurfaceColor: L.FINISH_SUBSURFACE_COLOR,
  coatWeight: L.FINISH_COAT,
  coatColor: L.FINISH_COAT_COLOR,
  coatRoughness: L.FINISH_COAT_ROUGHNESS,
  coatRoughnessAnisotropy: L.FINISH_COAT_ANISOTROPY,
  fuzzWeight: L.FINISH_FUZZ,
  fuzzColor: L.FINISH_FUZZ_COLOR,
  fuzzRoughness: L.FINISH_FUZZ_ROUGHNESS,
  thinFilmWeight: L.FINISH_FILM,
  thinFilmThickness: L.FINISH_FILM_THICKNESS,
  geometryOpacity: L.FINISH_OPACITY,
  emissionColor: L.FINISH_EMISSION,
  normal: L.FINISH_NORMAL,
  height: L.FINISH_HEIGHT,
};

/** What a value of 1 is where it stands for the parameter itself: micrometres of a film are kept as nm, turns as radians. */
const WORTH: Partial<Record<MapSlot, number>> = { thinFilmThickness: 1000, specularRotation: 2 * Math.PI };
/** Slots whose values need not stay between 0 and 1. */
const UNBOUNDED = new Set<MapSlot>(['thinFilmThickness', 'specularRotation', 'emissionColor', 'height']);

const CHANNELS: FinishMap['channel'][] = ['red', 'green', 'blue', 'alpha', 'brightness'];
const TILINGS: FinishMap['tiling'][] = ['repeat', 'mirror', 'once', 'stretch'];

/** Layers of maps that a finish wears, those of one slot from the lowest; what is switched off is left out. */
export function finishMaps({ maps }: Finish): FinishMap[] {
  const bySlot = new Map<MapSlot, FinishMap[]>();
  for (const map of Object.values(maps)) {
    if (!map.muted) bySlot.set(map.slot, [...(bySlot.get(map.slot) ?? []), map]);
  }
  return [...bySlot.values()].flatMap((layers) => layers.sort((a, b) => a.order - b.order));
}

/** Whether values go through range, curve or shades at all. */
const isRemapped = ({ dark, bright, curve, inverted, low, high, shades }: FinishMap): boolean =>
  dark !== 0 || bright !== 1 || curve !== 1 || inverted || low !== 0 || high !== 1 || shades !== null;

/**
 * Puts maps on a finish in kernel memory.
 * @param seen the camera, for what is laid on from it
 */
export function writeMaps(
  heap: KernelHeap,
  finish: number,
  maps: readonly LoadedMap[],
  seen: { camera: Camera | null; aspect: number },
): void {
  const at = heap.allocate(Math.max(1, maps.length) * L.MAP_SIZE);
  const shadesAt = maps.map(({ map: { shades } }) =>
    shades ? heap.copy(Float32Array.from(shades.flatMap(({ at: where, color }) => [where, ...color]))) : 0,
  );
  const { u32, f32 } = heap.views();
  maps.forEach(({ map, data }, k) => writeMap(f32, u32, at + k * L.MAP_SIZE, map, data, shadesAt[k]!, seen));
  u32[(finish + L.FINISH_MAPS) / 4] = at;
  u32[(finish + L.FINISH_MAP_COUNT) / 4] = maps.length;
  u32[(finish + L.FINISH_RELIEF) / 4] = maps.some(({ map }) => map.slot === 'height') ? 1 : 0;
}

/** Writes one layer's record, MAP_SIZE bytes, at an address of memory; the live picture reads the same. */
export function writeMap(
  f32: Float32Array,
  u32: Uint32Array,
  at: number,
  map: FinishMap,
  data: number,
  shades: number,
  seen: { camera: Camera | null; aspect: number },
): void {
  const { slot } = map;
  const word = (offset: number, value: number) => (u32[(at + offset) / 4] = value);
  const put = (offset: number, ...values: readonly number[]) => f32.set(values, (at + offset) / 4);
  u32.fill(0, at / 4, (at + L.MAP_SIZE) / 4);
  word(L.MAP_DATA, data);
  word(L.MAP_TARGET, TARGETS[slot]);
  word(L.MAP_COMPONENTS, isColorSlot(slot) || slot === 'normal' ? 3 : 1);
  word(L.MAP_CHANNEL, CHANNELS.indexOf(map.channel));
  put(L.MAP_MATRIX, ...mapMatrix(map));
  put(L.MAP_STRENGTH, slot === 'normal' || slot === 'height' ? map.strength : Math.min(1, map.strength));
  word(L.MAP_KIND, aboutSource(map.source).code);
  word(L.MAP_BLEND, BLENDS.indexOf(map.blend));
  word(L.MAP_PROJECTION, PROJECTIONS.indexOf(map.projection));
  word(L.MAP_TILING, TILINGS.indexOf(map.tiling));
  const flags = [
    map.selfMasked && L.MAP_SELF_MASKED,
    (map.within === 'world' || map.projection === 'camera') && L.MAP_IN_WORLD,
    isRemapped(map) && L.MAP_REMAPPED,
    !UNBOUNDED.has(slot) && L.MAP_BOUNDED,
    map.sides === 'front' && L.MAP_ONE_SIDED,
  ];
  word(
    L.MAP_FLAGS,
    flags.reduce<number>((sum, flag) => sum | (flag || 0), 0),
  );
  put(L.MAP_PLACE, ...(map.projection === 'camera' ? cameraRows(seen.camera, seen.aspect) : placeRows(map)));
  put(L.MAP_EXTENT, ...map.size);
  put(L.MAP_SOFTNESS, map.softness);
  const [dark, bright] = map.inverted ? [map.bright, map.dark] : [map.dark, map.bright];
  put(L.MAP_DARK, dark, 1 / (bright === dark ? 1e-6 : bright - dark), map.curve, map.low, map.high);
  word(L.MAP_SHADES, shades);
  word(L.MAP_SHADE_COUNT, map.shades?.length ?? 0);
  put(L.MAP_WORTH, WORTH[slot] ?? 1);
  put(L.MAP_PARAMETERS, ...aboutSource(map.source).parameters(map.source));
}

/** Rows that bring a place into the frame that a map is laid on in. */
function placeRows({ position, orientation }: FinishMap): number[] {
  const turn = quaternionFromTurn(orientation);
  return ([[1, 0, 0], [0, 1, 0], [0, 0, 1]] as const).flatMap((axis) => {
    const way = rotateVector([...axis], turn);
    return [...way, -(way[0]! * position[0] + way[1]! * position[1] + way[2]! * position[2])];
  }); // prettier-ignore
}

/** Rows that bring a place of the world to where a camera sees it: across and up in widths of the picture, and away. */
function cameraRows(camera: Camera | null, aspect: number): number[] {
  if (!camera) return [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 1];
  const { x, y, z } = cameraAxes(camera);
  const { position } = camera;
  const parallel = camera.projection === 'orthographic';
  const wide = parallel ? camera.orthographicWidth : 2 * tanHalfWidth(camera);
  const row = (way: readonly number[], by: number) => [
    ...way.map((v) => v * by),
    -by * way.reduce((sum, v, k) => sum + v * position[k]!, 0),
  ];
  return [...row(x, 1 / wide), ...row(y, aspect / wide), ...(parallel ? [0, 0, 0, 1] : row(z, -1))];
}
