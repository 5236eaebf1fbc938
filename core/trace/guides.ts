import * as L from '@zippy/kernel/layout';
import type { Camera, Light } from '../document';
import { centreOf, dot, halfDiagonal, subtract, type Bounds } from '../geometry';
import { circleOfConfusion, lampKind, lensRadius, tanHalfWidth } from '../optics';
import { cameraAxes } from '../scene';
import type { Instance } from './instances';
import { holds, lampBounds } from './lightBounds';

/** A sphere about something that shines, and its intensity. */
interface Guide {
  centre: [number, number, number];
  radius: number;
  intensity: number;
}

/** A guide for places outside of lenses, and its radius for places within them: 0 where it says nothing there. */
export interface LampGuide extends Guide {
  within: number;
}

/** Something that gives light, other than sun and surroundings. */
interface Source {
  box: Bounds;
  /** Radius of a sphere about the middle of the box that it stays in. */
  reach: number;
  intensity: number;
  instance: Instance | null;
}

function sourcesOf(instances: Instance[], lamps: Light[]): Source[] {
  const parts = instances.map((instance) => ({
    box: instance.box,
    reach: instance.reach,
    intensity: instance.intensity,
    instance,
  }));
  const local = lamps
    .filter((light) => !lampKind(light).far)
    .map((light) => {
      const { low, high, intensity } = lampBounds(light);
      return {
        box: { low, high } as unknown as Bounds,
        reach: lampKind(light).reach(light),
        intensity,
        instance: null,
      };
    });
  return [...parts, ...local].filter(({ intensity }) => intensity > 0);
}

/** Notes at each part whether light is sampled from within it, and whether guides are followed there. */
export function markLit(instances: Instance[], lamps: Light[]): void {
  const sources = sourcesOf(instances, lamps);
  for (const instance of instances) {
    if (instance.flags & L.INSTANCE_CATCHER) continue;
    const others = sources.filter((source) => source.instance !== instance);
    if (others.some(({ box }) => holds(instance.box, box))) instance.flags |= L.INSTANCE_HOLDS_LIGHT;
    if (instance.bends && others.some(({ box }) => touches(instance.box, box))) instance.flags |= L.INSTANCE_LENS;
  }
}

/** Luminous parts and lamps that stand in or close behind clear solids, with a sphere that their bent picture stays in. */
export function findGuides(instances: Instance[], lamps: Light[]): LampGuide[] {
  const clear = instances.filter((instance) => instance.bends);
  if (clear.length === 0) return [];
  return sourcesOf(instances, lamps).flatMap(({ box, reach, intensity }) => {
    const around = clear.find((instance) => touches(instance.box, box));
    if (!around) return [];
    const centre = centreOf(box);
    // A lens of common glass shows what is in it up to one and a half times as large.
    const radius = Math.min(1.7 * reach, halfDiagonal(around.box));
    return [
      { centre, radius, intensity: intensity * 0.7, within: reach },
      { centre: centreOf(around.box), radius: halfDiagonal(around.box), intensity: intensity * 0.3, within: 0 },
    ];
  });
}

/** Whether `inner` reaches into `outer` or is nearer to it than a third of its size. */
function touches(outer: Bounds, inner: Bounds): boolean {
  return [0, 1, 2].every((k) => {
    const slack = (outer.high[k]! - outer.low[k]!) / 3;
    return inner.low[k]! < outer.high[k]! + slack && inner.high[k]! > outer.low[k]! - slack;
  });
}

/** How the frame is seen: its camera in the middle, at the beginning and at the end of a slice, and the picture's width in pixels. */
export interface View {
  cameras: [Camera, ...Camera[]] | null;
  width: number;
}

/** A guide on the lens, and where the picture may show its light: slopes of the line of sight, and how far around. */
export interface LensGuide extends Guide {
  slopes: [number, number];
  around: number;
}

/** Most lights that get a guide on the lens: each costs time for every ray of the camera. */
const MOST_LENS_GUIDES = 32;
/** Radius in pixels from which on blur shows. */
const BLURRED = 0.25;
/** A sphere seen from aside casts this much more of a shadow onto the plane of the lens, at most. */
const OBLIQUE = 1.5;

/** What the camera sees shine out of focus: where its blur ends, it comes in at a small part of the lens for a point of the picture. */
export function findLensGuides(
  luminous: { instance: Instance }[],
  lamps: Light[],
  { cameras, width }: View,
): LensGuide[] {
  if (!cameras || cameras.some((camera) => camera.projection === 'orthographic' || lensRadius(camera) <= 0)) return [];
  const [camera] = cameras;
  const pixel = (2 * tanHalfWidth(camera) * camera.focusDistance) / width;
  const parts = luminous
    .filter(({ instance }) => !(instance.flags & L.INSTANCE_DARK_TO_CAMERA))
    .map(({ instance: { box, reach, intensity } }) => ({ centre: centreOf(box), radius: reach, intensity }));
  const seen = lamps
    .filter((light) => light.visibleToCamera)
    .map((light) => ({
      centre: light.position,
      radius: lampKind(light).reach(light),
      intensity: lampBounds(light).intensity,
    }));
  return [...parts, ...seen]
    .filter(({ centre, radius, intensity }) => {
      const distance = -dot(subtract(centre, camera.position), cameraAxes(camera).z);
      return intensity > 0 && distance > radius && circleOfConfusion(camera, distance) > 2 * BLURRED * pixel;
    })
    .map((guide) => ({ ...guide, ...shownAt(guide, cameras) }))
    .sort((a, b) => b.intensity - a.intensity)
    .slice(0, MOST_LENS_GUIDES);
}

/** Where all of these cameras may show a sphere, blurred. */
function shownAt({ centre, radius }: Guide, cameras: [Camera, ...Camera[]]): Pick<LensGuide, 'slopes' | 'around'> {
  const views = cameras.map((camera) => {
    const { x, y, z } = cameraAxes(camera);
    const to = subtract(centre, camera.position);
    const distance = -dot(to, z);
    const blur = [distance - radius, distance, distance + radius].map((away) =>
      away > 0 ? (OBLIQUE * radius + lensRadius(camera) * Math.abs(1 - away / camera.focusDistance)) / away : Infinity,
    );
    return { slopes: [dot(to, x) / distance, dot(to, y) / distance] as const, around: Math.max(...blur) };
  });
  const { slopes } = views[0]!;
  const around = views.map((view) => view.around + Math.hypot(view.slopes[0] - slopes[0], view.slopes[1] - slopes[1]));
  return { slopes: [...slopes], around: Math.min(1e6, 1.02 * Math.max(...around)) };
}
