import * as L from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { newCamera, newLight, type Camera, type Finish, type Light } from '../document';
import { composeTransform, type Transform } from '../geometry';
import { luminance } from '../optics';
import { frameState, quad, renderScene, sphere, type TestFilm, type TestScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: the weights of the balance heuristic left out on either side, the chance of a guide left
// out, a rectangle half as wide as what it covers, corners of a polygon left open and too narrow a search for guides each fail a test here.

const glowing: Partial<Finish> = { baseColor: [0, 0, 0], specularWeight: 0, emissionUnit: 'nit', emissionPower: 683 };
const at = (x: number, y: number, z: number): Transform => composeTransform([x, y, z], [0, 0, 0, 1], [1, 1, 1]);

/** 240 mm behind what is in focus, 300 mm from a lens of 18 mm: light of 1 mm comes in at a twentieth of a percent of the lens. */
const camera: Partial<Camera> = { focalLength: 50, fStop: 1.4, focusDistance: 60, blades: 0 };
const ball = { mesh: sphere(1, 24), finish: glowing, transform: at(0, 0, -200) };
/** Seen sharp, the ball covers so much of the picture: 36 mm at 50 mm, 300 mm away. */
const sharpShare = Math.PI / ((36 / 50) * 300) ** 2;
const frame = { width: 48, height: 48, samples: 32, depth: 1 };

const unguided = (u32: Uint32Array, scene: number) => void (u32[(scene + L.SCENE_LENS_GUIDE_COUNT) / 4] = 0);
const light = (film: TestFilm): number => luminance(film.mean);

/** Relative deviation of the pixels in the middle of a blurred disc. */
function roughness(film: TestFilm): number {
  const values: number[] = [];
  for (let y = 18; y < 30; y++) for (let x = 18; x < 30; x++) values.push(film.pixel(x, y)[1]);
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return Math.sqrt(values.reduce((sum, v) => sum + (v / mean - 1) ** 2, 0) / values.length);
}

describe('what shines far out of focus', () => {
  it('is a disc with the light of the sharp picture, and smooth', async () => {
    const film = await renderScene({ parts: [ball], camera }, frame);
    expect(light(film) / sharpShare).toBeCloseTo(1, 1.5);
    expect(roughness(film)).toBeLessThan(0.1);
    const plain = await renderScene({ parts: [ball], camera, poke: unguided }, { ...frame, samples: 512 });
    expect(roughness(plain)).toBeGreaterThan(10 * roughness(film));
  });

  it('has the shape of the blades', async () => {
    const bladed = { ...camera, blades: 5, bladeTurn: 0.3 };
    const film = await renderScene({ parts: [ball], camera: bladed }, { ...frame, samples: 128 });
    const plain = await renderScene({ parts: [ball], camera: bladed, poke: unguided }, { ...frame, samples: 4096 });
    expect(light(film) / sharpShare).toBeCloseTo(1, 1.5);
    // No light where rays through all of the lens find none, but for a trace at the rim.
    let [outside, inside] = [0, 0];
    for (let y = 1; y < 47; y++) {
      for (let x = 1; x < 47; x++) {
        const near = [-1, 0, 1].some((j) => [-1, 0, 1].some((i) => plain.pixel(x + i, y + j)[1] > 0));
        if (near) inside += film.pixel(x, y)[1];
        else outside += film.pixel(x, y)[1];
      }
    }
    expect(inside).toBeGreaterThan(0);
    expect(outside).toBeLessThan(1e-3 * inside);
  });

  const lamps: [string, Partial<Light> & { kind: Light['kind'] }][] = [
    ['panel', { kind: 'panel', width: 3, height: 2 }],
    ['disc', { kind: 'disc', radius: 1.5, gradient: 0.5 }],
    ['tube', { kind: 'tube', width: 4, radius: 0.5 }],
    ['bulb', { kind: 'bulb', radius: 1 }],
    ['spot', { kind: 'spot', radius: 1, coneAngle: 0.5 }],
  ];
  it.each(lamps)('keeps its light, behind the focus and before it: %s', async (_, { kind, ...lamp }) => {
    // Far away, the sharp picture has the same light with less noise; close by, every point of the lens sees another lamp.
    for (const [position, focusDistance, sharp] of [
      [[4, -3, -200], 60, true],
      [[2, 1, 60], 160, false],
    ] as const) {
      const scene: TestScene = {
        lights: [
          newLight(kind, {
            ...lamp,
            id: 'l',
            position: [...position],
            target: [0, 0, 100],
            power: 1,
            visibleToCamera: true,
          }),
        ],
        camera: { ...camera, focusDistance },
      };
      const film = await renderScene(scene, frame);
      const plain = await renderScene(
        sharp ? { ...scene, camera: { ...camera, fStop: 0 } } : { ...scene, poke: unguided },
        sharp
          ? { ...frame, samples: 16384, region: { left: 0.4, top: 0.4, right: 0.6, bottom: 0.6 } }
          : { ...frame, samples: 1024 },
      );
      expect(light(plain)).toBeGreaterThan(0);
      expect(light(film) / light(plain)).toBeCloseTo(1, 1.3);
    }
  });

  it('keeps its light where it covers as much as the lens, and has less noise there, too', async () => {
    const card = { mesh: sphere(4, 48), finish: glowing, transform: at(0, 0, -30) };
    const scene: TestScene = { parts: [card], camera: { ...camera, focalLength: 60, focusDistance: 105 } };
    const [film, plain, long] = [
      await renderScene(scene, frame),
      await renderScene({ ...scene, poke: unguided }, frame),
      await renderScene({ ...scene, poke: unguided }, { ...frame, samples: 4096, seed: 5 }),
    ];
    expect(light(film) / light(long)).toBeCloseTo(1, 1.5);
    const error = (other: TestFilm) => {
      let sum = 0;
      for (let y = 0; y < 48; y++)
        for (let x = 0; x < 48; x++) sum += (other.pixel(x, y)[1] - long.pixel(x, y)[1]) ** 2;
      return sum;
    };
    expect(error(film)).toBeLessThan(0.6 * error(plain));
  });

  it('is hidden by what stands before it and tinted by thin glass', async () => {
    const black = { mesh: quad(400), finish: { baseColor: [0, 0, 0], specularWeight: 0 } as Partial<Finish> };
    // The left half of the way is closed, close to the lens's own plane, so that half of the lens is.
    const behind = { ...black, transform: at(-200, 0, 99) };
    const open = await renderScene({ parts: [ball], camera }, frame);
    const half = await renderScene({ parts: [ball, behind], camera }, frame);
    expect(light(half) / light(open)).toBeCloseTo(0.5, 1);
    const glass: Partial<Finish> = {
      transmissionWeight: 1,
      specularRoughness: 0,
      specularIor: 1,
      thinWalled: true,
      transmissionColor: [0.2, 0.5, 0.9],
    };
    const pane = { mesh: quad(400), finish: glass, transform: at(0, 0, 20) };
    const tinted = await renderScene({ parts: [ball, pane], camera }, frame);
    const sharp = await renderScene(
      { parts: [ball, pane], camera: { ...camera, fStop: 0 } },
      { ...frame, samples: 1024 },
    );
    for (let k = 0; k < 3; k++) expect(tinted.mean[k]! / sharp.mean[k]!).toBeCloseTo(1, 1.3);
    expect((tinted.mean[2] / tinted.mean[0]) * (open.mean[0] / open.mean[2])).toBeCloseTo(4.5, 1);
    expect(roughness(tinted)).toBeLessThan(0.1);
  });

  it('is in its light layer and in the emission layer, which add up to the picture', async () => {
    const lamp = newLight('bulb', { id: 'l', name: 'Far lamp', position: [5, 0, -200], radius: 1, power: 1 });
    const scene: TestScene = { parts: [ball], lights: [{ ...lamp, visibleToCamera: true }], camera };
    const { film, frame: loaded } = await renderScene(scene, { ...frame, layers: ['lights', 'emission'] });
    const sums = { picture: 0, layers: 0, emission: 0, groups: loaded.groups.map(() => 0) };
    for (let p = 0; p < film.length; p += loaded.floats) {
      sums.picture += film[p + 1]!;
      sums.emission += film[p + loaded.layers.emission! + 1]!;
      loaded.groups.forEach((_, g) => (sums.groups[g]! += film[p + loaded.layers.lights! + g * 3 + 1]!));
    }
    const [, far, part] = sums.groups;
    expect(loaded.groups).toEqual(['Surroundings', 'Far lamp', 'Finish 0']);
    expect(far).toBeGreaterThan(0);
    expect(part).toBeGreaterThan(0);
    expect((far! + part!) / sums.picture).toBeCloseTo(1, 5);
    expect(sums.emission / sums.picture).toBeCloseTo(1, 5);
  });

  it('gets no guide where the camera cannot see it blurred', async () => {
    const guides = async (scene: TestScene) => {
      let count = -1;
      await renderScene(
        { ...scene, poke: (u32, at) => void (count = u32[(at + L.SCENE_LENS_GUIDE_COUNT) / 4]!) },
        { ...frame, samples: 1 },
      );
      return count;
    };
    expect(await guides({ parts: [ball], camera })).toBe(1);
    expect(await guides({ parts: [ball], camera: { ...camera, fStop: 0 } })).toBe(0);
    expect(await guides({ parts: [ball], camera: { ...camera, focusDistance: 300 } })).toBe(0);
    expect(await guides({ parts: [ball], camera: { ...camera, projection: 'orthographic' } })).toBe(0);
    expect(await guides({ parts: [{ ...ball, transform: at(0, 0, 300) }], camera })).toBe(0);
    const dark = { ...ball, finish: { ...glowing, emissionVisibleToCamera: false } };
    expect(await guides({ parts: [dark], camera })).toBe(0);
  });

  it('is looked for wherever the picture may show it', async () => {
    const rolled = newCamera({ ...camera, position: [0, 0, 100], target: [0, 0, 0], shutterAngle: 0, roll: 0.7 });
    const lamp = newLight('tube', {
      id: 'l',
      position: [60, 20, -90],
      target: [0, 0, 100],
      width: 8,
      radius: 0.5,
      power: 1,
    });
    const scene: TestScene = {
      parts: [{ ...ball, transform: at(-20, 30, -200) }],
      lights: [{ ...lamp, visibleToCamera: true }],
    };
    const state = { ...frameState(scene), camera: rolled };
    const aside = (x: number) => ({
      ...state,
      camera: { ...rolled, position: [x, 0, 100] as [number, number, number] },
    });
    state.shutter = [{ from: aside(-6), middle: state, to: aside(6) }];
    const everywhere = (u32: Uint32Array, scene: number) => {
      const guides = u32[(scene + L.SCENE_LENS_GUIDES) / 4]!;
      const count = u32[(scene + L.SCENE_LENS_GUIDE_COUNT) / 4]!;
      expect(count).toBe(2);
      for (let k = 0; k < count; k++) new Float32Array(u32.buffer)[(guides + k * L.GUIDE_SIZE + 28) / 4] = 1e12;
    };
    const film = await renderScene({ ...scene, state }, frame);
    const whole = await renderScene({ ...scene, state, poke: everywhere }, frame);
    expect(light(film)).toBeGreaterThan(0);
    expect(Buffer.from(film.film.buffer).equals(Buffer.from(whole.film.buffer))).toBe(true);
  });

  it('moves while the shutter is open, and is the same bytes on any number of workers', async () => {
    const scene: TestScene = { parts: [ball], camera };
    const state = frameState(scene);
    const part = state.parts[0]!;
    const shifted = (x: number) => ({ ...state, parts: [{ ...part, transform: at(x, 0, -200) }] });
    state.shutter = [{ from: shifted(-10), middle: state, to: shifted(10) }];
    const film = await renderScene({ ...scene, state }, { ...frame, samples: 256 });
    expect(light(film) / sharpShare).toBeCloseTo(1, 1.3);
    const three = await renderScene({ ...scene, state }, { ...frame, samples: 256 }, 3, [40, 256]);
    expect(Buffer.from(three.film.buffer).equals(Buffer.from(film.film.buffer))).toBe(true);
  });
});
