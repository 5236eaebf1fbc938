import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import * as L from '@zippy/kernel/layout';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { footageKey, newLight, newMap, type Finish, type FinishMap, type MapSlot } from '../document';
import { toHalf } from '../develop';
import { decodeSrgb } from '../optics';
import { plainSurroundings } from '../optics';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from './index';
import { box, frameState, quad, renderScene, type TestScene } from './testing/renderState';
import type { TexturePicture } from './textures';

// Tried by breaking the kernel on purpose: only the finest level used, rows and columns of the matrix exchanged, the two
// tangents exchanged, and the tilt not turned with its picture each fail a test here.

const card = { ...quad(40), uvs: new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]) };
const white: Partial<Finish> = { baseColor: [1, 1, 1], specularWeight: 0 };
const checker = (size: number): TexturePicture => ({
  width: size,
  height: size,
  pixels: Uint8Array.from({ length: size * size * 4 }, (_, k) =>
    k % 4 === 3 ? 255 : (k >> 2) % size >= size / 2 !== Math.floor(k / 4 / size) >= size / 2 ? 200 : 50,
  ),
});
const plain = (rgba: number[]): TexturePicture => ({ width: 1, height: 1, pixels: Uint8Array.from(rgba) });

/** A card that wears a picture in one slot, under light from everywhere unless the scene says otherwise. */
async function render(
  picture: TexturePicture,
  slot: MapSlot,
  map: Partial<FinishMap> = {},
  scene: Partial<TestScene> = {},
  samples = 64,
) {
  const finish = { ...white, ...scene.parts?.[0]?.finish, maps: { [slot]: newMap(slot, 'picture', map) } };
  return renderScene(
    {
      camera: { focalLength: 90 },
      set: (set) => (set.surroundings.color = [1, 1, 1]),
      ...scene,
      parts: [{ mesh: card, ...scene.parts?.[0], finish }, ...(scene.parts?.slice(1) ?? [])],
      pictures: { picture },
    },
    { width: 32, height: 32, samples, depth: 2 },
  );
}

describe('a picture on a surface', () => {
  it('colours it in light, the right way up, by its coordinates', async () => {
    const film = await render(checker(64), 'baseColor');
    const [dark, bright] = [decodeSrgb(50 / 255), decodeSrgb(200 / 255)];
    expect(film.pixel(8, 8)[0]).toBeCloseTo(dark, 1.7);
    expect(film.pixel(24, 8)[0]).toBeCloseTo(bright, 1.7);
    expect(film.pixel(8, 24)[0]).toBeCloseTo(bright, 1.7);
    expect((await render(checker(64), 'baseColor', { coding: 'linear' })).pixel(24, 8)[0]).toBeCloseTo(200 / 255, 1.7);
  });

  it('of half floats keeps what eight bits lose, coded or as light, near and far', async () => {
    const halves = (values: number[], size = 64): TexturePicture => ({
      width: size,
      height: size,
      pixels: Uint16Array.from({ length: size * size * 4 }, (_, k) =>
        toHalf(k % 4 === 3 ? 1 : values[(k >> 2) % size < size / 2 ? 0 : 1]!),
      ),
    });
    // One code of eight bits is 0.0039 of light, or 0.0003 where it is coded.
    const dark = await render(halves([0.0011, 0.0017]), 'baseColor', { coding: 'linear' });
    expect(dark.pixel(8, 16)[0]).toBeCloseTo(0.0011, 4.5);
    expect(dark.pixel(24, 16)[0]).toBeCloseTo(0.0017, 4.5);
    const coded = await render(halves([0.5, 0.502]), 'baseColor', { coding: 'srgb' });
    expect(coded.pixel(8, 16)[0]).toBeCloseTo(decodeSrgb(0.5), 3);
    // Far off, half of it is each: the mean of light, whatever it is coded in.
    const far = await render(halves([0.2, 0.8]), 'baseColor', { coding: 'srgb', repeatU: 400, repeatV: 400 });
    expect(far.pixel(16, 16)[0]).toBeCloseTo((decodeSrgb(0.2) + decodeSrgb(0.8)) / 2, 2);
    // What lies below nothing raises nothing and lowers nothing else: numbers keep their sign until they are remapped.
    const signed = await render(halves([-1, 1]), 'baseColor', { coding: 'linear', dark: -1, bright: 1, high: 0.5 });
    expect(signed.pixel(8, 16)[0]).toBeCloseTo(0, 3);
    expect(signed.pixel(24, 16)[0]).toBeCloseTo(0.5, 2);
  });

  it('is placed by repeats, turn and offset, and weakened by its strength', async () => {
    const coding = 'linear';
    // Half a picture to the right: the columns change places.
    const moved = await render(checker(64), 'baseColor', { coding, offsetU: 0.5 });
    expect(moved.pixel(8, 8)[0]).toBeCloseTo(200 / 255, 1.7);
    // Half of it along the width alone: only its left half is seen, dark above and bright below.
    const wide = await render(checker(64), 'baseColor', { coding, repeatU: 0.5 });
    expect(wide.pixel(24, 8)[0]).toBeCloseTo(50 / 255, 1.7);
    expect(wide.pixel(24, 24)[0]).toBeCloseTo(200 / 255, 1.7);
    // Coordinates a quarter turn counter-clockwise: what went along u now goes up the picture.
    const gradient = {
      ...checker(64),
      pixels: checker(64).pixels.map((v, k) => (k % 4 === 3 ? v : k / 4 < 2048 ? 0 : 200)),
    };
    const turned = await render(gradient, 'baseColor', { coding, turn: Math.PI / 2 });
    expect(turned.pixel(8, 16)[0]).toBeGreaterThan(0.7);
    expect(turned.pixel(24, 16)[0]).toBeLessThan(0.1);
    const weak = await render(plain([0, 0, 0, 255]), 'baseColor', { strength: 0.25 });
    expect(weak.pixel(16, 16)[0]).toBeCloseTo(0.75, 1.9);
  });

  it('far away is its mean, not one of its pixels', async () => {
    const picture = checker(512);
    // A fine checker: every second pixel.
    picture.pixels.forEach((_, k) => {
      if (k % 4 < 3) picture.pixels[k] = ((k >> 2) + Math.floor(k / 2048)) % 2 ? 255 : 0;
    });
    const film = await render(picture, 'baseColor', { coding: 'linear' });
    const coded = await render(picture, 'baseColor', { coding: 'srgb' });
    for (const [x, y] of [
      [9, 9],
      [16, 20],
      [23, 12],
    ] as const) {
      expect(film.pixel(x, y)[0]).toBeCloseTo(0.5, 1.5);
      // The mean is one of light, not of display codes.
      expect(coded.pixel(x, y)[0]).toBeCloseTo(0.5, 1.5);
    }
  });

  it('of one channel drives one number: opacity shows what is behind', async () => {
    const film = await render(
      plain([0, 128, 0, 255]),
      'geometryOpacity',
      { channel: 'green' },
      { set: (set) => { set.surroundings.color = [1, 1, 1]; set.behind.kind = 'transparent'; } }, // prettier-ignore
      512,
    );
    const alpha = film.film[(16 * 32 + 16) * film.frame.floats + 3]!;
    expect(alpha).toBeCloseTo(128 / 255, 1.6);
  });

  it.each([
    ['baseMetalness', { baseMetalness: 1, specularWeight: 1 }, { specularWeight: 1 }],
    ['baseDiffuseRoughness', { baseDiffuseRoughness: 1 }, { baseDiffuseRoughness: 0 }],
    ['specularWeight', { specularWeight: 1 }, { specularWeight: 0 }],
    ['specularColor', { specularWeight: 1 }, { specularWeight: 1, specularColor: [0, 0, 0] }],
    ['specularRoughness', { specularWeight: 1, specularRoughness: 0.8 }, { specularWeight: 1, specularRoughness: 0 }],
    [
      'specularRoughnessAnisotropy',
      { baseMetalness: 1, specularWeight: 1, specularRoughnessAnisotropy: 0.9 },
      { baseMetalness: 1, specularWeight: 1 },
    ],
    ['transmissionWeight', { transmissionWeight: 1, thinWalled: true }, { thinWalled: true }],
    [
      'transmissionColor',
      { transmissionWeight: 1, thinWalled: true },
      { transmissionWeight: 1, thinWalled: true, transmissionColor: [0, 0, 0] },
    ],
    ['subsurfaceWeight', { subsurfaceWeight: 1, thinWalled: true }, { thinWalled: true }],
    [
      'subsurfaceColor',
      { subsurfaceWeight: 1, thinWalled: true },
      { subsurfaceWeight: 1, thinWalled: true, subsurfaceColor: [0, 0, 0] },
    ],
    ['coatWeight', { coatWeight: 1, coatColor: [1, 0.2, 0.2] }, {}],
    ['coatColor', { coatWeight: 1 }, { coatWeight: 1, coatColor: [0, 0, 0] }],
    ['coatRoughness', { coatWeight: 1, coatRoughness: 1 }, { coatWeight: 1, coatRoughness: 0 }],
    ['fuzzWeight', { fuzzWeight: 1, baseColor: [0, 0, 0] }, { baseColor: [0, 0, 0] }],
    [
      'fuzzColor',
      { fuzzWeight: 1, baseColor: [0, 0, 0] },
      { fuzzWeight: 1, fuzzColor: [0, 0, 0], baseColor: [0, 0, 0] },
    ],
    ['fuzzRoughness', { fuzzWeight: 1, fuzzRoughness: 1 }, { fuzzWeight: 1, fuzzRoughness: 0 }],
    [
      'thinFilmWeight',
      { thinFilmWeight: 1, baseMetalness: 1, specularWeight: 1 },
      { baseMetalness: 1, specularWeight: 1 },
    ],
    [
      'thinFilmThickness',
      { thinFilmWeight: 1, baseMetalness: 1, specularWeight: 1 },
      { thinFilmWeight: 1, thinFilmThickness: 0, baseMetalness: 1, specularWeight: 1 },
    ],
    ['emissionColor', { emissionPower: 50 }, {}],
  ] as [MapSlot, Partial<Finish>, Partial<Finish>][])(
    'of black in %s is that parameter at nothing',
    async (slot, finish, without) => {
      const sun = newLight('sun', { position: [60, 20, 100], power: 683 });
      const scene = (worn: Partial<Finish>): TestScene => ({
        parts: [{ mesh: card, finish: { ...white, baseColor: [0.5, 0.5, 0.5], ...worn } }],
        lights: [sun],
        camera: { focalLength: 90, position: [-54, -18, 90] },
        set: (set) => (set.surroundings.color = [0.3, 0.3, 0.3]),
      });
      const mapped = await render(plain([0, 0, 0, 255]), slot, {}, scene(finish));
      const size = { width: 32, height: 32, samples: 64, depth: 2 };
      const expected = await renderScene(scene(without), size);
      const unmapped = await renderScene(scene(finish), size);
      const whole = await render(plain([255, 255, 255, 255]), slot, {}, scene(finish));
      for (const k of [0, 1, 2] as const) {
        expect(mapped.mean[k]).toBeCloseTo(expected.mean[k], 2.5);
        expect(whole.mean[k]).toBeCloseTo(unmapped.mean[k], 2.5);
      }
      expect(mapped.mean.some((v, k) => Math.abs(v - unmapped.mean[k]!) > 4e-3)).toBe(true);
    },
  );

  it('of normals tilts the surface: red towards u, green up the picture, turned with it', async () => {
    const towards = async (rgb: number[], from: [number, number, number], turn = 0) => {
      const lights = [newLight('sun', { position: from, power: 683 })];
      const film = await render(plain([...rgb, 255]), 'normal', { turn }, { lights, set: () => undefined }, 16);
      return film.pixel(16, 16)[1];
    };
    const [right, above] = [[100, 0, 100], [0, 100, 100]] as [[number, number, number], [number, number, number]]; // prettier-ignore
    const flat = await towards([128, 128, 255], right);
    expect(await towards([204, 128, 230], right)).toBeGreaterThan(flat * 1.2);
    expect(await towards([52, 128, 230], right)).toBeLessThan(flat * 0.5);
    expect(await towards([128, 204, 230], right)).toBeCloseTo(await towards([128, 52, 230], right), 1);
    expect(await towards([128, 204, 230], above)).toBeGreaterThan(flat * 1.2);
    expect(await towards([128, 52, 230], above)).toBeLessThan(flat * 0.5);
    // With the coordinates turned a quarter, u of the surface goes up the picture.
    expect(await towards([128, 204, 230], right, Math.PI / 2)).toBeGreaterThan(flat * 1.2);
    expect(await towards([204, 128, 230], above, Math.PI / 2)).toBeLessThan(flat * 0.5);
  });

  it('comes from six sides, upright, 100 mm wide, where a part has no coordinates', async () => {
    const from = (position: [number, number, number]) =>
      render(
        checker(64),
        'baseColor',
        { coding: 'linear' },
        { parts: [{ mesh: box(60, 60, 60) }], camera: { position, focalLength: 90 } },
      );
    for (const place of [
      [0, 0, 160],
      [0, 0, -160],
      [160, 0, 0],
      [-160, 0, 0],
      [0, 160, 0.1],
      [0, -160, -0.1],
    ] as [number, number, number][]) {
      const film = await from(place);
      // Dark above on the left and below on the right, as the picture is.
      expect(film.pixel(12, 12)[0]).toBeCloseTo(50 / 255, 1.5);
      expect(film.pixel(20, 20)[0]).toBeCloseTo(50 / 255, 1.5);
      expect(film.pixel(20, 12)[0]).toBeCloseTo(200 / 255, 1.5);
    }
  });

  it('lights what a luminous part lights, in its colour', async () => {
    const film = await render(
      plain([255, 0, 0, 255]),
      'emissionColor',
      {},
      {
        parts: [
          {
            mesh: card,
            finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 50, emissionTwoSided: true },
            transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 60],
          },
          { mesh: quad(400), finish: white },
        ],
        set: () => undefined,
        camera: { position: [0, 0, 40] },
      },
    );
    expect(film.mean[0]).toBeGreaterThan(0.01);
    expect(film.mean[1]).toBe(0);
  });

  it("is told from another project's under the same id by its content", async () => {
    const memory = createKernelMemory();
    const wasm = readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm'));
    const kernel = await startKernel(new WebAssembly.Module(wasm), memory, 0);
    let red = true;
    const scene = new SceneMemory(kernel, memory, {
      mesh: async () => card,
      sky: async () => plainSurroundings([1, 1, 1]),
      picture: async () => plain(red ? [255, 0, 0, 255] : [0, 0, 255, 255]),
      contentOf: (asset) => `${asset} ${red}`,
    });
    const finish = { ...white, maps: { baseColor: newMap('baseColor', 'sign') } };
    const state = frameState({ parts: [{ mesh: card, finish }], set: (set) => (set.surroundings.color = [1, 1, 1]) });
    const middle = async () => {
      const settings = { ...defaultRenderSettings(), width: 16, height: 16, samples: 4 };
      const frame = await scene.load(state, settings);
      resetTiles(memory);
      renderTiles(kernel, memory, frame, false);
      const at = (8 * 16 + 8) * frame.floats;
      return [...scene.readFilm(frame).slice(at, at + 3)];
    };
    const first = await middle();
    red = false;
    const second = await middle();
    expect(first[0]!).toBeGreaterThan(first[2]! + 0.1);
    expect(second[2]!).toBeGreaterThan(second[0]! + 0.1);
  });

  it('that is a frame of footage takes the room of one that is seen no more', async () => {
    const memory = createKernelMemory();
    const wasm = readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm'));
    const kernel = await startKernel(new WebAssembly.Module(wasm), memory, 0);
    const scene = new SceneMemory(kernel, memory, {
      mesh: async () => card,
      sky: async () => plainSurroundings([1, 1, 1]),
      picture: async (key) => {
        const k = Number(key.split('@')[1]);
        const pixels = Uint8Array.from({ length: 64 * 64 * 4 }, (_, at) => (at % 4 === 3 ? 255 : 10 * k));
        return { width: 64, height: 64, pixels };
      },
    });
    const shown = async (k: number) => {
      const finish = {
        ...white,
        maps: { baseColor: newMap('baseColor', footageKey('clip', k), { coding: 'linear' }) },
      };
      const state = frameState({ parts: [{ mesh: card, finish }], set: (set) => (set.surroundings.color = [1, 1, 1]) });
      const settings = { ...defaultRenderSettings(), width: 16, height: 16, samples: 4 };
      const frame = await scene.load(state, settings);
      resetTiles(memory);
      renderTiles(kernel, memory, frame, false);
      return { at: frame.scene, light: scene.readFilm(frame)[(8 * 16 + 8) * frame.floats]! };
    };
    const first = await shown(1);
    const frames = [];
    for (let k = 2; k <= 24; k++) frames.push(await shown(k));
    frames.forEach(({ light }, k) => expect(light / first.light).toBeCloseTo(k + 2, 1));
    // All that is laid over what stays lies where it lay.
    expect(new Set([first, ...frames].map(({ at }) => at)).size).toBe(1);
    expect((await shown(1)).light).toBeCloseTo(first.light, 5);
  });

  it('of a kind that the kernel does not know ends the render instead of giving a wrong picture', async () => {
    const unknown = (u32: Uint32Array, scene: number) => {
      const finish = u32[(u32[(scene + L.SCENE_INSTANCES) / 4]! + L.INSTANCE_FINISH) / 4]!;
      u32[(u32[(finish + L.FINISH_MAPS) / 4]! + L.MAP_KIND) / 4] = 99;
    };
    await expect(render(plain([255, 0, 0, 255]), 'baseColor', {}, { poke: unknown })).rejects.toThrow('unreachable');
  });
});
