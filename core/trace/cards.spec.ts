import { describe, expect, it } from 'vitest';
import { newLight, type Light } from '../document';
import { composeTransform } from '../geometry';
import { lampKind, lampRadiance, lightColor } from '../optics';
import { quad, renderScene } from './testing/renderState';

const white = { baseColor: [1, 1, 1] as [number, number, number], specularWeight: 0 };
const mirror = { baseColor: [1, 1, 1] as [number, number, number], baseMetalness: 1, specularRoughness: 0 };
const green = (light: Light) => lightColor(light.kelvin, light.tint)[1];
const lamp = (kind: Light['kind'], over: Partial<Light> = {}) =>
  newLight(kind, { position: [0, 0, 50], target: [0, 0, 0], unit: 'nit', power: 683, softEdge: 0, ...over });
const render = (light: Light, finish: object = white, shift = 0, samples = 256) =>
  renderScene(
    {
      parts: [{ mesh: quad(60), finish, transform: composeTransform([shift, 0, 0], [0, 0, 0, 1], [1, 1, 1]) }],
      lights: [light],
      camera: { position: [shift, 0, 100], target: [shift, 0, 0] },
    },
    { width: 16, height: 16, samples, depth: 2 },
  );

const mean = (light: Light) => lampKind(light).mean!(light);

describe('a soft card', () => {
  it.each([0.1, 1, 2.4])(
    "as a disc of %s radians gives a white card its radiance times the square of the half angle's sine",
    async (span) => {
      const card = lamp('card', { round: true, spanWidth: span });
      const expected = green(card) * Math.sin(span / 2) ** 2;
      expect((await render(card)).pixel(8, 8)[1]! / expected).toBeCloseTo(1, 1.6);
    },
  );

  it('shines alike wherever a part stands, and however far off its handle is', async () => {
    const near = (await render(lamp('card'))).pixel(8, 8)[1]!;
    expect((await render(lamp('card'), white, 20_000)).pixel(8, 8)[1]! / near).toBeCloseTo(1, 1.6);
    expect((await render(lamp('card', { position: [0, 0, 5000] }))).pixel(8, 8)[1]! / near).toBeCloseTo(1, 1.6);
  });

  it('is seen in a mirror under its angles, softly towards its edge, and not by the camera', async () => {
    // From the pinhole the mirror's edge is seen under atan(0.3) = 0.29 radians: the card covers some pixels of it.
    const sharp = await render(lamp('card', { spanWidth: 0.3, spanHeight: 0.3 }), mirror, 0, 16);
    const soft = await render(lamp('card', { spanWidth: 0.3, spanHeight: 0.3, softEdge: 1 }), mirror, 0, 16);
    const full = green(lamp('card'));
    expect(sharp.pixel(8, 8)[1]! / full).toBeCloseTo(1, 1);
    const row = (film: typeof sharp) => Array.from({ length: 16 }, (_, x) => film.pixel(x, 8)[1]! / full);
    const fading = (film: typeof sharp) => row(film).filter((v) => v > 0.05 && v < 0.95).length;
    expect(fading(soft)).toBeGreaterThan(fading(sharp));
    expect(soft.pixel(8, 8)[1]!).toBeLessThan(sharp.pixel(8, 8)[1]! * 1.01);
  });
});

describe('a panel or disc with a soft edge', () => {
  it.each([
    ['panel', 0.3, 0],
    ['panel', 1, 0.5],
    ['disc', 0.4, 0.3],
    ['disc', 1, 0],
  ] as const)('gives its lumens: a %s, soft by %s, darker by %s', async (kind, softEdge, gradient) => {
    // Far away, what it gives is its intensity: lumens over π, by the square of the distance.
    const far = { position: [0, 0, 4000] as [number, number, number], width: 100, height: 200, radius: 90, unit: 'lumen' as const, power: 4000 }; // prettier-ignore
    const light = lamp(kind, { ...far, softEdge, gradient });
    const expected = (green(light) * 4000) / 683 / Math.PI / Math.PI / 16;
    expect((await render(light, white, 0, 1024)).pixel(8, 8)[1]! / expected).toBeCloseTo(1, 1.5);
    expect(lampRadiance(light)).toBeGreaterThan(lampRadiance(lamp(kind, far)));
  });

  it('is as bright as without one where a share of its area fades', () => {
    const plain = mean(lamp('panel'));
    expect(mean(lamp('panel', { softEdge: 0.5 }))).toBeCloseTo(plain * 0.75 ** 2, 4);
    expect(mean(lamp('disc', { softEdge: 1e-9 }))).toBeCloseTo(mean(lamp('disc')), 2);
  });

  it('rolled by a quarter is as wide as it was high', async () => {
    const wide = { width: 40, height: 12, position: [0, 0, 30] as [number, number, number] };
    const plain = await render(lamp('panel', wide), mirror, 0, 16);
    const rolled = await render(lamp('panel', { ...wide, roll: Math.PI / 2 }), mirror, 0, 16);
    expect(plain.pixel(4, 8)[1]!).toBeGreaterThan(0.2);
    expect(plain.pixel(8, 4)[1]!).toBeLessThan(0.01);
    expect(rolled.pixel(8, 4)[1]!).toBeGreaterThan(0.2);
    expect(rolled.pixel(4, 8)[1]!).toBeLessThan(0.01);
  });
});
