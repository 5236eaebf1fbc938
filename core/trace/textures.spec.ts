import * as L from '@zippy/kernel/layout';
import { KernelHeap } from '@zippy/kernel/host';
import { describe, expect, it } from 'vitest';
import { newLight, type Finish } from '../document';
import { decodeSrgb } from '../optics';
import { quad, renderScene, type TestScene } from './testing/renderState';
import { loadTexture, writeMaps, type FinishMap, type TexturePicture } from './textures';

// Tried by breaking the kernel on purpose: only the finest level used, rows and columns of the matrix exchanged, and the two
// tangents exchanged each fail a test here.

const card = { ...quad(40), uvs: new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]) };
const white: Partial<Finish> = { baseColor: [1, 1, 1], specularWeight: 0 };
const checker = (size: number, coded: TexturePicture['coded']): TexturePicture => ({
  width: size,
  height: size,
  coded,
  pixels: Uint8Array.from({ length: size * size * 4 }, (_, k) =>
    k % 4 === 3 ? 255 : (k >> 2) % size >= size / 2 !== Math.floor(k / 4 / size) >= size / 2 ? 200 : 50,
  ),
});
const plain = (rgba: number[], coded: TexturePicture['coded'] = 'linear'): TexturePicture => ({
  width: 1,
  height: 1,
  coded,
  pixels: Uint8Array.from(rgba),
});

/** A card that wears pictures, under light from everywhere unless the scene says otherwise. */
async function render(picture: TexturePicture, map: Partial<FinishMap>, scene: Partial<TestScene> = {}, samples = 64) {
  return renderScene(
    {
      parts: [{ mesh: card, finish: white }],
      camera: { focalLength: 90 },
      set: (set) => (set.surroundings.color = [1, 1, 1]),
      ...scene,
      poke: (u32, at) => {
        const heap = new KernelHeap({ buffer: u32.buffer, grow: () => 0 } as unknown as WebAssembly.Memory);
        // Behind everything the scene uses: the memory has room to spare there.
        heap.allocate(u32.byteLength - 8_000_000 - heap.top);
        const instance = u32[(at + L.SCENE_INSTANCES) / 4]!;
        const finish = u32[(instance + L.INSTANCE_FINISH) / 4]!;
        const texture = loadTexture(heap, picture);
        writeMaps(heap, finish, [
          {
            texture,
            target: L.FINISH_BASE,
            components: 3,
            channel: 0,
            matrix: [1, 0, 0, 0, 1, 0],
            strength: 1,
            ...map,
          },
        ]);
      },
    },
    { width: 32, height: 32, samples, depth: 2 },
  );
}

describe('a picture on a surface', () => {
  it('colours it in light, the right way up, by its coordinates', async () => {
    const film = await render(checker(64, 'srgb'), {});
    const [dark, bright] = [decodeSrgb(50 / 255), decodeSrgb(200 / 255)];
    expect(film.pixel(8, 8)[0]).toBeCloseTo(dark, 1.7);
    expect(film.pixel(24, 8)[0]).toBeCloseTo(bright, 1.7);
    expect(film.pixel(8, 24)[0]).toBeCloseTo(bright, 1.7);
    expect((await render(checker(64, 'linear'), {})).pixel(24, 8)[0]).toBeCloseTo(200 / 255, 1.7);
  });

  it('is placed by its matrix and weakened by its strength', async () => {
    // Half a picture to the right: the columns change places.
    const moved = await render(checker(64, 'linear'), { matrix: [1, 0, 0.5, 0, 1, 0] });
    expect(moved.pixel(8, 8)[0]).toBeCloseTo(200 / 255, 1.7);
    // Across goes what went down, and only the picture's lower half is used: bright on its left.
    const turned = await render(checker(64, 'linear'), { matrix: [0, 1, 0, 0.25, 0, 0.5] });
    expect(turned.pixel(24, 8)[0]).toBeCloseTo(200 / 255, 1.7);
    expect(turned.pixel(24, 24)[0]).toBeCloseTo(50 / 255, 1.7);
    const weak = await render(plain([0, 0, 0, 255]), { strength: 0.25 });
    expect(weak.pixel(16, 16)[0]).toBeCloseTo(0.75, 1.9);
  });

  it('far away is its mean, not one of its pixels', async () => {
    const picture = checker(512, 'linear');
    // A fine checker: every second pixel.
    picture.pixels.forEach((_, k) => {
      if (k % 4 < 3) picture.pixels[k] = ((k >> 2) + Math.floor(k / 2048)) % 2 ? 255 : 0;
    });
    const film = await render(picture, {}, {}, 64);
    for (const [x, y] of [[9, 9], [16, 20], [23, 12]] as const) expect(film.pixel(x, y)[0]).toBeCloseTo(0.5, 1.5); // prettier-ignore
  });

  it('of one channel drives one number: opacity shows what is behind', async () => {
    const film = await render(
      plain([0, 128, 0, 255]),
      { target: L.FINISH_OPACITY, components: 1, channel: 1 },
      { set: (set) => { set.surroundings.color = [1, 1, 1]; set.behind.kind = 'transparent'; } }, // prettier-ignore
      512,
    );
    const alpha = film.film[(16 * 32 + 16) * film.frame.floats + 3]!;
    expect(alpha).toBeCloseTo(128 / 255, 1.6);
  });

  it('of normals tilts the surface along its coordinates', async () => {
    const sun = newLight('sun', { position: [100, 0, 100], power: 683 });
    const towards = async (rgb: number[]) =>
      (
        await render(
          plain([...rgb, 255]),
          { target: L.FINISH_NORMAL, components: 3 },
          { lights: [sun], set: () => undefined },
          16,
        )
      ).pixel(16, 16)[1];
    const flat = await towards([128, 128, 255]);
    // u grows along x, where the sun is: tilted towards it the card is brighter, away from it darker; v grows along -y.
    expect(await towards([204, 128, 230])).toBeGreaterThan(flat * 1.2);
    expect(await towards([52, 128, 230])).toBeLessThan(flat * 0.5);
    expect(await towards([128, 204, 230])).toBeCloseTo(await towards([128, 52, 230]), 1);
  });

  it('lights what a luminous part lights, in its colour', async () => {
    const wall = { mesh: quad(400), finish: white };
    const film = await renderScene(
      {
        parts: [
          {
            mesh: card,
            finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 50, emissionTwoSided: true },
            transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 60],
          },
          wall,
        ],
        camera: { position: [0, 0, 40] },
        poke: (u32, at) => {
          const heap = new KernelHeap({ buffer: u32.buffer, grow: () => 0 } as unknown as WebAssembly.Memory);
          heap.allocate(u32.byteLength - 8_000_000 - heap.top);
          const instance = u32[(at + L.SCENE_INSTANCES) / 4]!;
          const texture = loadTexture(heap, plain([255, 0, 0, 255]));
          writeMaps(heap, u32[(instance + L.INSTANCE_FINISH) / 4]!, [
            { texture, target: L.FINISH_EMISSION, components: 3, channel: 0, matrix: [1, 0, 0, 0, 1, 0], strength: 1 },
          ]);
        },
      },
      { depth: 1, samples: 16 },
    );
    expect(film.mean[0]).toBeGreaterThan(0.01);
    expect(film.mean[1]).toBe(0);
  });
});
