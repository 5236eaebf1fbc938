import { FILM_FLOATS, FILM_PART, FILM_SQUARES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { newLight, newMap, type Finish } from '../document';
import { composeTransform, quaternionAbout } from '../geometry';
import { circleOfConfusion, luminance } from '../optics';
import { newCamera } from '../document';
import { frameIdentity, defaultRenderSettings } from './index';
import { box, frameState, quad, renderScene, sphere } from './testing/renderState';

/** A matte surface without a shine, so that closed forms of diffuse light hold exactly. */
const matte: Partial<Finish> = { baseColor: [1, 1, 1], specularWeight: 0 };
const white = (set: { surroundings: { color: number[] } }) => (set.surroundings.color = [1, 1, 1]);

describe('closed forms', () => {
  const towards = (light: Parameters<typeof newLight>[1], kind: 'panel' | 'bulb') =>
    newLight(kind, { kelvin: 6500, target: [0, 0, 0], ...light });
  const luminanceOf = ([r, g, b]: number[]) => 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  /** A matte white wall at z = 0 seen from far, close to its centre: radiance = irradiance / π. */
  const wall = {
    parts: [{ mesh: quad(4000), finish: matte }],
    camera: { position: [0, 0, 900] as [number, number, number], focalLength: 2000 },
  };

  it('a bulb: irradiance falls with the square of the distance', async () => {
    for (const distance of [200, 400]) {
      const { mean } = await renderScene(
        { ...wall, lights: [towards({ position: [0, 0, distance], power: 683, radius: 5 }, 'bulb')] },
        { depth: 1 },
      );
      const irradiance = 1 / (4 * Math.PI) / (distance / 1000) ** 2;
      expect(luminanceOf(mean) / (irradiance / Math.PI)).toBeCloseTo(1, 2);
    }
  });

  it('a panel: irradiance below the centre of a rectangle', async () => {
    const [a, b, h] = [150, 100, 200];
    const { mean } = await renderScene(
      { ...wall, lights: [towards({ position: [0, 0, h], power: 683, width: 2 * a, height: 2 * b }, 'panel')] },
      { depth: 1, samples: 512 },
    );
    // Form factor of a parallel rectangle from the point below its centre (Siegel and Howell, Thermal Radiation Heat Transfer).
    const [x, y] = [a / h, b / h];
    const corner =
      (x / Math.hypot(1, x)) * Math.atan(y / Math.hypot(1, x)) +
      (y / Math.hypot(1, y)) * Math.atan(x / Math.hypot(1, y));
    const factor = (4 / (2 * Math.PI)) * corner;
    const radiance = 1 / (Math.PI * 2 * a * 2 * b * 1e-6);
    expect(luminanceOf(mean) / (radiance * factor)).toBeCloseTo(1, 2);
  });

  it('an emissive part sends out its lumens', async () => {
    // A small luminous ball in front of the wall is a bulb.
    const ball = {
      mesh: sphere(5, 24),
      finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 683, emissionKelvin: 6500 } as Partial<Finish>,
      transform: composeTransform([150, 0, 300], [0, 0, 0, 1], [1, 1, 1]),
    };
    const { mean } = await renderScene({ ...wall, parts: [...wall.parts, ball] }, { depth: 1, samples: 512 });
    const d2 = (150 ** 2 + 300 ** 2) * 1e-6;
    const irradiance = (1 / (4 * Math.PI) / d2) * (300 / Math.hypot(150, 300));
    expect(luminanceOf(mean) / (irradiance / Math.PI)).toBeCloseTo(1, 1.6);
  });

  it('surroundings: half of a bright sky lights a wall by its cosine', async () => {
    // Radiance 1 above the horizon, 0 below: a wall facing +z gets π / 2.
    const sky = { width: 32, height: 16, pixels: new Float32Array(32 * 16 * 3).fill(1, 0, 32 * 8 * 3) };
    const { mean } = await renderScene(
      { ...wall, sky, set: (set) => (set.surroundings = { ...set.surroundings, kind: 'picture', picture: 'p' }) },
      { depth: 1, samples: 512 },
    );
    expect(mean[1]).toBeCloseTo(0.5, 2);
  });

  it('surroundings: a small sun is met by choosing from the picture, and turns with it', async () => {
    const sky = { width: 256, height: 128, pixels: new Float32Array(256 * 128 * 3) };
    // Straight ahead along +z is the middle of the picture.
    for (const x of [127, 128])
      for (const y of [63, 64]) for (let k = 0; k < 3; k++) sky.pixels[(y * 256 + x) * 3 + k] = 1000;
    const lit = (turn: number) =>
      renderScene(
        {
          ...wall,
          sky,
          set: (set) => (set.surroundings = { ...set.surroundings, kind: 'picture', picture: 'p', turn }),
        },
        { depth: 1, samples: 256 },
      );
    const solidAngle = (((2 * (2 * Math.PI)) / 256) * (2 * Math.PI)) / 128;
    expect((await lit(0)).mean[1] / ((1000 * solidAngle) / Math.PI)).toBeCloseTo(1, 1.3);
    expect((await lit(Math.PI)).mean[1]).toBeLessThan(1e-3);
  });

  it('glass: a slab absorbs by Beer and Lambert and reflects by Fresnel', async () => {
    const finish: Partial<Finish> = {
      transmissionWeight: 1,
      specularRoughness: 0,
      specularIor: 1.5,
      transmissionColor: [0.25, 0.5, 1],
      transmissionDepth: 10,
    };
    const { mean } = await renderScene(
      { parts: [{ mesh: box(400, 400, 20), finish }], camera: { focalLength: 2000 }, set: white },
      { samples: 512 },
    );
    // The mirror image on the near side is of white surroundings too: R + T with all inner bounces.
    const r = 0.04;
    [0.25, 0.5, 1].forEach((color, k) => {
      const a = color ** 2;
      const through = ((1 - r) ** 2 * a) / (1 - r * r * a * a);
      const back = r + ((1 - r) ** 2 * r * a * a) / (1 - r * r * a * a);
      expect(mean[k]).toBeCloseTo(through + back, 2);
    });
  });

  it('the lens: a point out of focus becomes a disc of the circle of confusion', async () => {
    const camera = newCamera({
      position: [0, 0, 1000],
      target: [0, 0, 0],
      focalLength: 50,
      sensorWidth: 36,
      fStop: 1,
      focusDistance: 500,
    });
    const dot = {
      mesh: sphere(3, 12),
      finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 50 } as Partial<Finish>,
    };
    const { film, width } = await renderScene(
      { parts: [dot], camera },
      { width: 128, height: 128, samples: 512, depth: 1 },
    );
    let area = 0;
    for (let at = 0; at < film.length; at += FILM_FLOATS) if (film[at + 7]! > 0) area++;
    const pixelOnFocusPlane = ((36 / 50) * 500) / width;
    const expected = circleOfConfusion(camera, 1000) / pixelOnFocusPlane;
    expect(2 * Math.sqrt(area / Math.PI)).toBeGreaterThan(expected);
    expect(2 * Math.sqrt(area / Math.PI)).toBeLessThan(expected + 3);
  });

  it('perspective: focal length over sensor width gives the size of the picture', async () => {
    const card = { mesh: quad(36), finish: { ...matte } };
    const { film, width } = await renderScene(
      { parts: [card], camera: { focalLength: 50, sensorWidth: 36, position: [0, 0, 100] } },
      { width: 100, height: 100, samples: 16 },
    );
    let row = 0;
    for (let x = 0; x < width; x++) row += film[(50 * width + x) * FILM_FLOATS + 3]! - 0;
    // 36 mm at 100 mm cover half of what a 36 mm sensor behind 50 mm sees; outside is the black surroundings, alpha 1.
    let part = 0;
    for (let x = 0; x < width; x++)
      part += new Uint32Array(film.buffer)[(50 * width + x) * FILM_FLOATS + FILM_PART]! > 0 ? 1 : 0;
    expect(row).toBeCloseTo(100, 3);
    expect(Math.abs(part - 50)).toBeLessThanOrEqual(2);
  });
});

describe('the picture', () => {
  const scene = {
    parts: [
      { mesh: sphere(10), finish: { baseColor: [0.8, 0.2, 0.1], coatWeight: 1 } as Partial<Finish> },
      {
        mesh: box(60, 2, 60),
        finish: {},
        transform: composeTransform([0, -11, 0], quaternionAbout([0, 1, 0], 0.4), [1, 1, 1]),
      },
    ],
    lights: [newLight('panel', { position: [-60, 80, 60], power: 20, width: 40, height: 40 })],
    set: white,
  };

  it('is the same bytes on any number of workers', async () => {
    const one = await renderScene(scene, { width: 80, height: 60, samples: 8 });
    const three = await renderScene(scene, { width: 80, height: 60, samples: 8 }, 3);
    expect(Buffer.from(one.film.buffer).equals(Buffer.from(three.film.buffer))).toBe(true);
  });

  it('is the same bytes in one go and in several passes', async () => {
    const whole = await renderScene(scene, { width: 40, height: 30, samples: 12 });
    const passes = await renderScene(scene, { width: 40, height: 30, samples: 12 }, 1, [1, 3, 8, 12]);
    expect(Buffer.from(whole.film.buffer).equals(Buffer.from(passes.film.buffer))).toBe(true);
  });

  it('tells its own noise: the deviation it names is the one found over many seeds', async () => {
    const settings = { width: 4, height: 4, samples: 16 };
    const runs = await Promise.all(
      Array.from({ length: 48 }, (_, seed) => renderScene(scene, { ...settings, seed: seed + 1 })),
    );
    let told = 0;
    let found = 0;
    for (let p = 0; p < 16; p++) {
      const light = runs.map((run) => luminance(run.pixel(p % 4, Math.floor(p / 4))));
      const mean = light.reduce((sum, v) => sum + v, 0) / light.length;
      found += light.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (light.length - 1);
      told += runs.reduce((sum, run) => sum + run.film[p * FILM_FLOATS + FILM_SQUARES]! ** 2, 0) / runs.length;
    }
    // Well-spread samples are better than the independent ones the estimate assumes, never worse.
    expect(found / told).toBeGreaterThan(0.1);
    expect(found / told).toBeLessThan(1.2);
  });

  it("stands the right way up, with the camera's right on the right", async () => {
    const red = {
      mesh: sphere(5, 16),
      finish: { ...matte, baseColor: [1, 0, 0] } as Partial<Finish>,
      transform: composeTransform([20, 20, 0], [0, 0, 0, 1], [1, 1, 1]),
    };
    const { pixel } = await renderScene(
      { parts: [red], set: white, camera: { focalLength: 50 } },
      { width: 36, height: 36 },
    );
    const [r, g] = pixel(18 + 10, 18 - 10);
    expect(r).toBeGreaterThan(0.3);
    expect(g).toBeLessThan(0.05);
  });

  it('has no alpha where a transparent background shows, and its layers are filled', async () => {
    const { film, width } = await renderScene(
      { ...scene, set: (set) => (set.behind.kind = 'transparent') },
      { width: 40, height: 40 },
    );
    const at = (20 * width + 20) * FILM_FLOATS;
    expect(film[3]).toBe(0);
    expect(film[at + 3]).toBe(1);
    expect(film[at + 7]).toBeCloseTo(90, 0);
    expect(film[at + 6]).toBeGreaterThan(0.9);
    expect(film[at + 8]).toBeCloseTo(0.8, 2);
    expect(new Uint32Array(film.buffer)[at + 11]).toBe(1);
  });

  it('of thin glass before a lamp lets its light straight through', async () => {
    const wall = { mesh: quad(4000), finish: matte };
    const pane = {
      mesh: quad(3000),
      finish: { transmissionWeight: 1, specularRoughness: 0, thinWalled: true } as Partial<Finish>,
      transform: composeTransform([0, 0, 150], [0, 0, 0, 1], [1, 1, 1]),
    };
    const lamp = [newLight('bulb', { position: [0, 0, 300], power: 683, radius: 5 })];
    const camera = { position: [0, 0, 100] as [number, number, number], focalLength: 2000 };
    const free = await renderScene({ parts: [wall], lights: lamp, camera }, { depth: 1 });
    const through = await renderScene({ parts: [wall, pane], lights: lamp, camera }, { depth: 1 });
    expect(through.mean[1] / free.mean[1]).toBeCloseTo((1 - 0.04) / (1 + 0.04), 2);
  });
});

describe('a thin pane', () => {
  it('lets light through at grazing angles from both of its sides', async () => {
    // A slab of two thin faces before a luminous wall, seen at 70 degrees: never total reflection.
    const glow = {
      mesh: quad(4000),
      finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 683 * Math.PI * 16 } as Partial<Finish>,
    };
    const pane = {
      mesh: box(3000, 3000, 2),
      finish: { transmissionWeight: 1, specularRoughness: 0, thinWalled: true } as Partial<Finish>,
      transform: composeTransform([0, 0, 20], [0, 0, 0, 1], [1, 1, 1]),
    };
    const position: [number, number, number] = [Math.sin(1.22) * 200, 0, Math.cos(1.22) * 200];
    const camera = { position, focalLength: 2000 };
    const free = await renderScene({ parts: [glow], camera });
    const through = await renderScene({ parts: [glow, pane], camera }, { samples: 512 });
    const f = 0.1701; // Fresnel reflectance at 70 degrees and index 1.5
    expect(through.mean[1] / free.mean[1]).toBeGreaterThan(((1 - f) / (1 + f)) ** 2 - 0.02);
  });
});

describe('the identity of a frame', () => {
  const settings = defaultRenderSettings();
  const state = () => frameState({ parts: [{ mesh: box(1, 1, 1) }], lights: [newLight('bulb', { id: 'b' })] });

  it('does not depend on names, and does on everything that is seen', () => {
    const first = frameIdentity(state(), settings, {});
    const named = state();
    named.lights[0]!.name = 'Another';
    named.finishes['f0']!.name = 'Another';
    expect(frameIdentity(named, settings, {})).toBe(first);
    const moved = state();
    moved.lights[0]!.position[0] += 0.001;
    expect(frameIdentity(moved, settings, {})).not.toBe(first);
    expect(frameIdentity(state(), { ...settings, samples: 65 }, {})).not.toBe(first);
    const pictured = state();
    pictured.set.surroundings = { ...pictured.set.surroundings, kind: 'picture', picture: 'sky' };
    const lit = frameIdentity(pictured, settings, { sky: 'a' });
    expect(frameIdentity(pictured, settings, { sky: 'b' })).not.toBe(lit);
    const worn = state();
    worn.finishes['f0'] = { ...worn.finishes['f0']!, maps: { baseColor: newMap('baseColor', 'grain') } };
    const mapped = frameIdentity(worn, settings, { grain: 'a' });
    expect(mapped).not.toBe(first);
    expect(frameIdentity(worn, settings, { grain: 'b' })).not.toBe(mapped);
    worn.finishes['f0'].maps.baseColor!.source = { kind: 'picture', picture: 'copy of the grain' };
    expect(frameIdentity(worn, settings, { 'copy of the grain': 'a' })).toBe(mapped);
  });
});
