import * as L from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { newLight, newMap, type Camera, type Finish, type Light, type StudioSet } from '../document';
import { composeTransform, quaternionAbout, type Transform } from '../geometry';
import { LAYERS } from '../document';
import type { RenderSettings } from './index';
import { box, frameState, quad, renderScene, sphere, type TestPart, type TestScene } from './testing/renderState';

// Every feature of the tracer beside every other. Each pair is rendered as it is, and once more without sampling lights at all: then
// every lamp is met by chance, which needs no densities, no weights and no shadow rays, and must give the same light.
// Tried by breaking the kernel on purpose: a hit that is forgotten while fog is lit, light from fog without the way to the lamp, and
// guides left out of a weight each fail some forty pairs here.

interface Draft {
  parts: TestPart[];
  lights: Light[];
  camera: Partial<Camera>;
  set: ((set: StudioSet) => void)[];
  settings: Partial<RenderSettings>;
  /** What the first part does while the shutter is open. */
  moved: Transform | null;
  /** Both ways cannot be compared: one of them leaves out light on purpose. */
  alone: boolean;
}

const at = (x: number, y: number, z: number, turn = 0.3): Transform =>
  composeTransform([x, y, z], quaternionAbout([0, 1, 0], turn), [1, 1, 1]);
const matte: Partial<Finish> = { baseColor: [0.7, 0.6, 0.5], specularWeight: 0 };
const lamp = (kind: Light['kind'], over: Partial<Light>) =>
  newLight(kind, { id: `${kind}${JSON.stringify(over.position)}`, kelvin: 5000, target: [0, 0, 0], ...over });

const base = (): Draft => ({
  parts: [
    { mesh: box(40, 40, 40), finish: { baseColor: [0.3, 0.5, 0.7], specularRoughness: 0.4 }, transform: at(0, 0, 0) },
    {
      mesh: quad(600),
      finish: matte,
      transform: composeTransform([0, -21, 0], quaternionAbout([1, 0, 0], -Math.PI / 2), [1, 1, 1]),
    },
  ],
  lights: [lamp('panel', { position: [-90, 120, 60], width: 120, height: 120, power: 40 })],
  camera: { position: [0, 50, 160], target: [0, 0, 0], focalLength: 45 },
  set: [(set) => (set.surroundings.color = [0.1, 0.1, 0.12])],
  settings: {},
  moved: null,
  alone: false,
});

const wear = (finish: Partial<Finish>) => (draft: Draft) =>
  void (draft.parts[0]!.finish = { ...draft.parts[0]!.finish, ...finish });
const put = (part: TestPart) => (draft: Draft) => void draft.parts.push(part);
const light =
  (...lights: Light[]) =>
  (draft: Draft) =>
    void draft.lights.push(...lights);
const stage = (change: (set: StudioSet) => void) => (draft: Draft) => void draft.set.push(change);

const FEATURES: Record<string, (draft: Draft) => void> = {
  fog: stage((set) => (set.air = { density: 1.5, color: [0.8, 0.85, 0.9], anisotropy: 0.4, reach: 800 })),
  'a picture of surroundings': stage((set) => Object.assign(set.surroundings, { kind: 'picture', picture: 'sky', brightness: 0.5 })),
  'an open sky with its sun': (draft) => {
    stage((set) => Object.assign(set.surroundings, { kind: 'sky', brightness: 1e-4 }))(draft);
    // By chance nothing finds a sun of half a degree.
    draft.alone = true;
  },
  'a gradient': stage((set) => Object.assign(set.surroundings, { kind: 'gradient' })),
  'tilted, turned surroundings': stage((set) => Object.assign(set.surroundings, { tilt: 0.6, turn: 1.1 })),
  'a floor': stage((set) => Object.assign(set.floor, { kind: 'floor', size: 500 })),
  'a sweep': stage((set) => Object.assign(set.floor, { kind: 'sweep', size: 600, depth: 150 })),
  'a floor and a part of what is behind': (draft) => {
    draft.parts[1]!.seen = { ofPlate: 'catches' };
    stage((set) => Object.assign(set.behind, { kind: 'color', color: [0.2, 0.2, 0.2] }))(draft);
    put({ mesh: box(20, 20, 20), finish: matte, transform: at(25, -10, 50), seen: { ofPlate: 'hides' } })(draft);
    put({ mesh: quad(60), finish: matte, transform: at(-60, 10, 0, 0.9), seen: { ofPlate: 'catches' } })(draft);
  },
  'nothing behind': stage((set) => (set.behind.kind = 'transparent')),
  'a plate behind': stage((set) => Object.assign(set.behind, { kind: 'plate', plate: 'plate' })),
  'another picture behind': stage((set) => Object.assign(set.behind, { kind: 'picture', picture: 'sky' })),
  'a disc with a gradient': light(lamp('disc', { position: [100, 80, 40], radius: 60, gradient: 0.8, power: 30 })),
  'a tube that is seen': light(lamp('tube', { position: [30, 60, 0], width: 150, radius: 12, power: 20, visibleToCamera: true })),
  'a bulb in the picture': light(lamp('bulb', { position: [45, 20, 20], radius: 18, power: 10, visibleToCamera: true })),
  'a spot with a grid': light(lamp('spot', { position: [60, 140, 60], radius: 50, coneAngle: 1.8, gridAngle: 1.2, power: 60 })),
  'a wide sun': light(lamp('sun', { position: [1, 2, 1], angularSize: 0.9, power: 60 })),
  'a lamp without shadows': (draft) => {
    light(lamp('panel', { position: [0, 100, -80], castsShadows: false, width: 80, height: 80, power: 30 }))(draft);
    draft.alone = true;
  },
  'sixty lamps': light(
    ...Array.from({ length: 60 }, (_, k) =>
      lamp('bulb', { position: [(k % 10) * 30 - 135, 90 + (k % 3) * 9, Math.floor(k / 10) * 30 - 75], radius: 12, power: 0.8 }),
    ),
  ),
  'a luminous part': put({ mesh: box(50, 6, 50), finish: { ...matte, emissionPower: 12 }, transform: at(-50, 40, 20) }),
  'a luminous sheet of two sides': put({ mesh: quad(60), finish: { ...matte, emissionPower: 12, emissionTwoSided: true }, transform: at(50, 20, -20, 1) }),
  'a luminous part the camera does not see': put({ mesh: sphere(15, 12), finish: { ...matte, emissionPower: 8, emissionVisibleToCamera: false }, transform: at(-45, 10, 35) }),
  'clear glass': put({ mesh: sphere(16, 24), finish: { transmissionWeight: 1, specularRoughness: 0, transmissionColor: [0.5, 0.9, 0.6], transmissionDepth: 20 }, transform: at(-30, 0, 45) }),
  'cloudy glass': wear({ transmissionWeight: 1, specularRoughness: 0.1, transmissionColor: [0.9, 0.8, 0.6], transmissionDepth: 20, transmissionScatter: [0.6, 0.6, 0.6] }),
  'frosted glass': wear({ transmissionWeight: 0.8, specularRoughness: 0.4 }),
  'dispersing glass': put({ mesh: box(18, 18, 18), finish: { transmissionWeight: 1, specularRoughness: 0, transmissionDispersionScale: 1 }, transform: at(34, -10, 40) }),
  'a thin wall of glass': put({ mesh: quad(120), finish: { transmissionWeight: 1, specularRoughness: 0, thinWalled: true, transmissionColor: [0.8, 0.6, 0.6] }, transform: at(10, 20, 60) }),
  'a lamp in a solid lens': (draft) => {
    put({ mesh: sphere(18, 24), finish: { transmissionWeight: 1, specularRoughness: 0.05 }, transform: at(40, 0, 40) })(draft);
    put({ mesh: sphere(9, 16), finish: { ...matte, emissionPower: 4 }, transform: at(40, 0, 40) })(draft);
  },
  wax: wear({ specularWeight: 0, subsurfaceWeight: 1, subsurfaceColor: [0.8, 0.5, 0.4], subsurfaceRadius: 5 }),
  metal: wear({ baseMetalness: 1, baseColor: [0.9, 0.7, 0.4], specularRoughness: 0.25 }),
  'brushed metal': wear({ baseMetalness: 1, specularRoughness: 0.4, specularRoughnessAnisotropy: 0.8, specularRotation: 0.5 }),
  'a coat, a film and fuzz': wear({ coatWeight: 1, coatRoughness: 0.1, thinFilmWeight: 0.6, fuzzWeight: 0.4 }),
  'holes by a picture': wear({ maps: { geometryOpacity: newMap('geometryOpacity', 'dots') } }),
  'colour and relief by pictures': wear({ maps: { baseColor: newMap('baseColor', 'dots'), normal: newMap('normal', 'dots', { strength: 0.4 }) } }),
  'half there': wear({ geometryOpacity: 0.5 }),
  'a lens with blades': (draft) => void Object.assign(draft.camera, { fStop: 1.4, focusDistance: 120, blades: 6 }),
  'parallel projection': (draft) => void Object.assign(draft.camera, { projection: 'orthographic', orthographicWidth: 130 }),
  'a part that moves': (draft) => void (draft.moved = at(14, 6, 4, 0.7)),
  'every layer': (draft) => void (draft.settings.layers = [...LAYERS]),
  'a limit for specks': (draft) => {
    draft.settings.speckLimit = 2;
    draft.alone = true;
  },
}; // prettier-ignore

const PICTURE = 16;
const dots = Uint8Array.from({ length: PICTURE * PICTURE * 4 }, (_, k) =>
  k % 4 === 3 ? 255 : ((((k >> 2) % PICTURE) ^ Math.floor((k >> 2) / PICTURE)) & 4) !== 0 ? 230 : 90,
);
const sky = {
  width: 32,
  height: 16,
  pixels: Float32Array.from({ length: 32 * 16 * 3 }, (_, k) => {
    const [x, y] = [Math.floor(k / 3) % 32, Math.floor(k / 96)];
    return Math.abs(x - 9) < 3 && Math.abs(y - 5) < 3 ? 3 : 0.15;
  }),
};

function sceneOf({ parts, lights, camera, set, moved }: Draft): TestScene {
  const scene: TestScene = {
    parts,
    lights,
    camera,
    set: (each) => set.forEach((change) => change(each)),
    sky,
    pictures: { dots: { width: PICTURE, height: PICTURE, pixels: dots }, plate: { width: PICTURE, height: PICTURE, pixels: dots } },
  }; // prettier-ignore
  if (!moved) return scene;
  const from = frameState(scene);
  const to = frameState(scene);
  to.parts[0]!.transform = moved;
  return { ...scene, state: { ...from, shutter: [{ from, middle: from, to }] } };
}

const byChance = (u32: Uint32Array, scene: number) => void (u32[(scene + L.SCENE_BY_CHANCE) / 4] = 1);

/** Mean of a picture's green, and what it says of its own standard error. */
async function lightOf(scene: TestScene, settings: Partial<RenderSettings>) {
  const { film, frame } = await renderScene(scene, { width: 16, height: 16, samples: 64, depth: 6, ...settings });
  let [sum, squares] = [0, 0];
  for (let at = 0; at < film.length; at += frame.floats) {
    for (let k = 0; k < frame.floats; k++) if (k !== 11 && !Number.isFinite(film[at + k]!)) return null;
    for (let k = 0; k < 3; k++) if (film[at + k]! < 0) return null;
    sum += film[at + 1]!;
    squares += film[at + 13]! ** 2;
  }
  const pixels = film.length / frame.floats;
  return { mean: sum / pixels, error: Math.sqrt(squares) / pixels };
}

describe('features in pairs', () => {
  const names = Object.keys(FEATURES);
  it.each(names)('%s beside each that comes after it', async (first) => {
    const faults: string[] = [];
    for (const second of names.slice(names.indexOf(first))) {
      const draft = base();
      for (const name of new Set([first, second])) FEATURES[name]!(draft);
      const scene = sceneOf(draft);
      const found = await lightOf(scene, draft.settings).catch((error: unknown) => String(error));
      if (typeof found === 'string' || !found) faults.push(`${second}: ${found ?? 'not a number, or below nothing'}`);
      else if (found.mean < 0.01) faults.push(`${second}: black`);
      if (draft.alone || typeof found === 'string' || !found) continue;
      const plain = (await lightOf({ ...scene, poke: byChance }, { ...draft.settings, samples: 256, seed: 7 }))!;
      const apart = Math.abs(found.mean - plain.mean);
      if (apart > 5 * Math.hypot(found.error, plain.error) + 0.01 * found.mean) {
        faults.push(`${second}: ${found.mean.toFixed(4)} by samples of lights, ${plain.mean.toFixed(4)} by chance`);
      }
    }
    expect(faults).toEqual([]);
  });
});
