import { describe, expect, it } from 'vitest';
import type { StudioSet } from '../document';
import { turnSurroundings, type SurroundingsPicture } from '../optics';
import { frameIdentity, defaultRenderSettings } from './index';
import { frameState, quad, renderScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: directions chosen without their tilt, and the picture behind counted for rays that
// were bent or reflected. Each fails here.

const around = (over: Partial<StudioSet['surroundings']>) => (set: StudioSet) =>
  void (set.surroundings = { ...set.surroundings, kind: 'picture', picture: 'p', ...over });

/** Radiance 1 above the horizon, 0 below. */
const half: SurroundingsPicture = {
  width: 32,
  height: 16,
  pixels: new Float32Array(32 * 16 * 3).fill(1, 0, 32 * 8 * 3),
};
const matte = { baseColor: [1, 1, 1] as [number, number, number], specularWeight: 0 };
const wall = { parts: [{ mesh: quad(4000), finish: matte }], camera: { position: [0, 0, 900] as [number, number, number], focalLength: 2000 } }; // prettier-ignore

describe('tilted surroundings', () => {
  it.each([
    [0, 0.5],
    [0.9, -1],
    [2.5, 2],
  ])('turned by %s and tilted by %s light a wall by the sky it sees', async (turn, tilt) => {
    const { mean } = await renderScene({ ...wall, sky: half, set: around({ turn, tilt }) }, { depth: 1, samples: 512 });
    // Form factor of a sloped plane to the sky: half of one more than the cosine between both (Liu and Jordan, 1963).
    const zenith = turnSurroundings([0, 1, 0], turn, tilt);
    expect(mean[1]).toBeCloseTo((1 + zenith[2]) / 2, 1.9);
  });

  it('stand where they are seen: a spot of the picture in the middle of the frame', async () => {
    const [turn, tilt] = [0.6, -0.8];
    const pixels = new Float32Array(256 * 128 * 3);
    for (let k = 0; k < 3; k++) for (const x of [91, 92]) for (const y of [40, 41]) pixels[(y * 256 + x) * 3 + k] = 1;
    const [theta, phi] = [(41 / 128) * Math.PI, (0.5 - 92 / 256) * 2 * Math.PI];
    const spot = [Math.sin(theta) * Math.sin(phi), Math.cos(theta), Math.sin(theta) * Math.cos(phi)] as const;
    const seen = turnSurroundings(spot, turn, tilt);
    const film = await renderScene({
      sky: { width: 256, height: 128, pixels },
      set: around({ turn, tilt }),
      camera: { position: [0, 0, 0], target: [...seen], focalLength: 500 },
    });
    expect(film.pixel(8, 8)[0]).toBeGreaterThan(0.9);
    expect(film.pixel(0, 0)[0]).toBeLessThan(0.1);
  });
});

describe('surroundings', () => {
  it('are tinted, and light what they are tinted', async () => {
    const set = around({ kind: 'color', color: [1, 0.5, 0.5], tint: [0.5, 1, 0], brightness: 2 });
    const { mean } = await renderScene({ ...wall, set }, { depth: 1 });
    expect(mean).toEqual([1, 1, 0].map((v) => expect.closeTo(v, 3)));
    const pictured = await renderScene({ ...wall, sky: half, set: around({ tint: [1, 0.5, 0] }) }, { depth: 1, samples: 256 }); // prettier-ignore
    expect(pictured.mean).toEqual([0.5, 0.25, 0].map((v) => expect.closeTo(v, 1.8)));
  });

  it('under an open sky tint the sun as they tint the sky', async () => {
    const lit = async (tint: [number, number, number]) =>
      (await renderScene({ ...wall, set: around({ kind: 'sky', tint }) }, { depth: 1, samples: 256 })).mean;
    const plain = await lit([1, 1, 1]);
    expect(plain[0]).toBeGreaterThan(1);
    const tinted = await lit([0.5, 0.25, 0]);
    [0.5, 0.25, 0].forEach((v, k) => expect(tinted[k]! / plain[k]!).toBeCloseTo(v, 1.8));
    expect(await lit([0, 0, 0])).toEqual([0, 0, 0]);
  });

  it('of a gradient show each colour where it stands', async () => {
    const gradient = { top: [1, 0, 0], horizon: [0, 1, 0], bottom: [0, 0, 1] } as StudioSet['surroundings']['gradient'];
    const look = async (target: [number, number, number]) =>
      (await renderScene({ set: around({ kind: 'gradient', gradient }), camera: { position: [0, 0, 0], target, focalLength: 500 } })).mean; // prettier-ignore
    expect((await look([0.01, 100, 0]))[0]).toBeGreaterThan(0.95);
    expect((await look([0, 0, -100]))[1]).toBeGreaterThan(0.95);
    expect((await look([0.01, -100, 0]))[2]).toBeGreaterThan(0.95);
  });

  it('keep their light through a blur, and lose their colour without saturation', async () => {
    const bare = await renderScene({ ...wall, sky: half, set: around({ blur: 0.3 }) }, { depth: 1, samples: 512 });
    expect(bare.mean[1]).toBeCloseTo(0.5, 2);
    const red = { width: 2, height: 2, pixels: new Float32Array(12).map((_, k) => (k % 3 === 0 ? 1 : 0)) };
    const { mean } = await renderScene({ ...wall, sky: red, set: around({ saturation: 0 }) }, { depth: 1 });
    expect(mean).toEqual([0.2126, 0.2126, 0.2126].map((v) => expect.closeTo(v, 3)));
  });
});

describe('what is seen behind', () => {
  const behind =
    (over: Partial<StudioSet['behind']>) =>
    (set: StudioSet): void => {
      set.surroundings.color = [1, 1, 1];
      set.behind = { ...set.behind, ...over };
    };
  const small = { mesh: quad(20), finish: matte };
  const green = { width: 4, height: 2, pixels: new Float32Array(24).map((_, k) => (k % 3 === 1 ? 1 : 0)) };

  it('may be another picture, which lights nothing and is seen in no mirror', async () => {
    const film = await renderScene(
      { parts: [small], sky: green, set: behind({ kind: 'picture', picture: 'other', brightness: 0.5 }) },
      { samples: 64 },
    );
    expect(film.pixel(0, 0)).toEqual([0, 0.5, 0]);
    expect(film.pixel(8, 8)).toEqual([1, 1, 1].map((v) => expect.closeTo(v, 1)));
    const mirror = { baseMetalness: 1, specularRoughness: 0, baseColor: matte.baseColor };
    const mirrored = await renderScene(
      { parts: [{ mesh: quad(20), finish: mirror }], sky: green, set: behind({ kind: 'picture', picture: 'other' }) },
      { samples: 16 },
    );
    expect(mirrored.pixel(8, 8)).toEqual([1, 1, 1].map((v) => expect.closeTo(v, 2)));
  });

  /** Four quarters: red, green above blue, white. */
  const quarters = { width: 16, height: 16, pixels: new Uint8Array(16 * 16 * 4).fill(255) };
  for (let k = 0; k < 256; k++) {
    const [right, low] = [k % 16 > 7, k > 127];
    quarters.pixels.set([right === low ? 255 : 0, right ? 255 : 0, low ? 255 : 0], k * 4);
  }

  it('may be a plate that fills the frame, upright, whatever the camera looks at', async () => {
    for (const target of [
      [0, 0, 0],
      [0, 100, 0.1],
    ] as [number, number, number][]) {
      const film = await renderScene({ pictures: { plate: quarters }, set: behind({ kind: 'plate', plate: 'plate' }), camera: { target } }); // prettier-ignore
      const corners = [[0, 0], [15, 0], [0, 15], [15, 15]] as const; // prettier-ignore
      const colors = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 1]]; // prettier-ignore
      corners.forEach(([x, y], k) => expect(film.pixel(x, y)).toEqual(colors[k]!.map((v) => expect.closeTo(v, 3))));
      expect(film.film[3]).toBe(1);
    }
  });

  it('shows as much of a plate as fills the frame without stretching it', async () => {
    // Four times as wide as high, each quarter a shade: a square frame shows the middle quarter only.
    const pixels = new Uint8Array(64 * 16 * 4);
    for (let k = 0; k < 64 * 16; k++)
      pixels.set([(k % 64) >> 4 === 1 || (k % 64) >> 4 === 2 ? 255 : 0, 0, 0, 255], k * 4);
    const film = await renderScene({ pictures: { plate: { width: 64, height: 16, pixels } }, set: behind({ kind: 'plate', plate: 'plate' }) }); // prettier-ignore
    expect(film.mean[0]).toBeGreaterThan(0.97);
  });

  it('is the surroundings where its picture is not chosen yet', async () => {
    for (const kind of ['picture', 'plate'] as const)
      expect((await renderScene({ set: behind({ kind }) })).mean).toEqual([1, 1, 1]);
  });

  it('makes another frame of another picture only where it is seen', () => {
    const name = (over: Partial<StudioSet['behind']>, hash: string) =>
      frameIdentity(frameState({ set: behind({ plate: 'a', ...over }) }), defaultRenderSettings(), { a: hash });
    expect(name({ kind: 'plate' }, '1')).not.toBe(name({ kind: 'plate' }, '2'));
    expect(name({ kind: 'color' }, '1')).toBe(name({ kind: 'color' }, '2'));
  });
});
