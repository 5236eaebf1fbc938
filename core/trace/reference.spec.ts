import { describe, expect, it } from 'vitest';
import type { Finish } from '../document';
import { quad, box, renderScene } from './testing/renderState';
import { referenceRadiance, type ReferenceScene } from './testing/bruteForce';
import type { TriangleMesh } from '../geometry';
import { lightColor } from '../optics';

const moved = (mesh: TriangleMesh, x: number, y: number, z: number): TriangleMesh => ({
  ...mesh,
  positions: mesh.positions.map((v, k) => v + [x, y, z][k % 3]!),
});

const SIZE = 12;
const SURROUNDINGS: [number, number, number] = [0.1, 0.15, 0.3];

/** By how many standard errors of the reference each pixel of the kernel's picture is off, in green. */
async function differences(
  parts: ReferenceScene['parts'],
  finishes: Partial<Finish>[],
  depth: number,
  samples: number,
  slack = 0.004,
): Promise<number[]> {
  const film = await renderScene(
    {
      parts: parts.map(({ mesh }, k) => ({ mesh, finish: finishes[k]! })),
      camera: { position: [0, 0, 150], focalLength: 60, sensorWidth: 36 },
      set: (set) => (set.surroundings.color = SURROUNDINGS),
    },
    { width: SIZE, height: SIZE, samples: 2048, depth },
  );
  const scene: ReferenceScene = { parts, surroundings: () => SURROUNDINGS };
  let seed = 12345;
  const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
  const tent = (u: number) => (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u));
  const tan = 36 / 2 / 60;
  const found: number[] = [];
  for (let y = 0; y < SIZE; y++) {
    for (let x = 0; x < SIZE; x++) {
      let sum = 0;
      let squares = 0;
      for (let s = 0; s < samples; s++) {
        const sx = (2 * (x + 0.5 + tent(random()))) / SIZE - 1;
        const sy = 1 - (2 * (y + 0.5 + tent(random()))) / SIZE;
        const green = referenceRadiance(scene, [0, 0, 150], [sx * tan, sy * tan, -1], depth, random)[1];
        sum += green;
        squares += green * green;
      }
      const mean = sum / samples;
      const error = Math.sqrt(Math.max(1e-9, squares / samples - mean * mean) / samples) + slack;
      found.push((film.pixel(x, y)[1] - mean) / error);
    }
  }
  return found;
}

/** Within three standard errors nearly everywhere, and no lean to one side over the whole picture. */
function expectAgreement(found: number[]): void {
  expect(found.filter((each) => Math.abs(each) > 3).length).toBeLessThanOrEqual(3);
  expect(Math.max(...found.map(Math.abs))).toBeLessThan(6);
  expect(Math.abs(found.reduce((sum, each) => sum + each, 0) / found.length)).toBeLessThan(0.5);
}

// Tried by breaking the kernel on purpose: green light that absorbs by the bounce instead of by the millimetre, and lamps that
// rays meet counted whole beside the samples of them, each fail a test here; so do facets that
// are wider by a fifth.
describe('the kernel and a brute-force reference in double precision', () => {
  // A luminous box sends out π × area × radiance.
  const lumens = (area: number, radiance: number) => 683 * Math.PI * area * 1e-6 * radiance;
  const tint = (radiance: number) => lightColor(6500, [1, 1, 1]).map((v) => v * radiance) as [number, number, number];
  const dark: [number, number, number] = [0, 0, 0];
  const matte = (baseColor: [number, number, number]): Partial<Finish> => ({ baseColor, specularWeight: 0 });

  it('agree on light that bounces between matte parts, a luminous part and coloured surroundings', async () => {
    const [wall, block] = [[0.8, 0.7, 0.6], [0.7, 0.2, 0.1]] as [number, number, number][]; // prettier-ignore
    const area = 2 * (10 * 10 + 10 * 2 + 10 * 2);
    const found = await differences(
      [
        { mesh: quad(120), albedo: wall!, emission: dark },
        { mesh: moved(box(24, 24, 24), -14, 0, 13), albedo: block!, emission: dark },
        { mesh: moved(box(10, 10, 2), 20, 12, 30), albedo: dark, emission: tint(6) },
      ],
      [matte(wall!), matte(block!), { ...matte(dark), emissionPower: lumens(area, 6), emissionKelvin: 6500 }],
      3,
      1500,
    );
    expectAgreement(found);
  }, 120_000);

  it('agree on red glass and a mirror before a matte wall under a large lamp', async () => {
    const wall: [number, number, number] = [0.7, 0.7, 0.7];
    const gold: [number, number, number] = [1, 0.7, 0.3];
    const area = 2 * (70 * 70 + 70 * 2 + 70 * 2);
    const absorption = [0.9, 0.35, 0.25].map((part) => -Math.log(part) / 20) as [number, number, number];
    const found = await differences(
      [
        { mesh: quad(160), albedo: wall, emission: dark },
        { mesh: moved(box(26, 26, 26), -16, -4, 16), albedo: dark, emission: dark, glass: { index: 1.5, absorption } },
        { mesh: moved(box(18, 22, 22), 18, 2, 14), albedo: dark, emission: dark, metal: gold },
        { mesh: moved(box(70, 70, 2), 55, 40, 70), albedo: dark, emission: tint(1.5) },
      ],
      [
        matte(wall),
        { transmissionWeight: 1, specularRoughness: 0, transmissionColor: [0.9, 0.35, 0.25], transmissionDepth: 20 },
        { baseColor: gold, baseMetalness: 1, specularRoughness: 0 },
        { ...matte(dark), emissionPower: lumens(area, 1.5), emissionKelvin: 6500 },
      ],
      6,
      2500,
    );
    expectAgreement(found);
  }, 240_000);

  it('agree on satin gold and satin plastic on a matte floor under a large lamp', async () => {
    const [floor, cream] = [[0.6, 0.6, 0.6], [0.8, 0.8, 0.5]] as [number, number, number][]; // prettier-ignore
    const gold: [number, number, number] = [1, 0.7, 0.3];
    const area = 2 * (70 * 70 + 70 * 2 + 70 * 2);
    const rough = (roughness: number) => ({ alpha: roughness * roughness, index: 1.5 });
    const found = await differences(
      [
        { mesh: quad(160), albedo: floor!, emission: dark },
        { mesh: moved(box(44, 70, 26), -24, -4, 16), albedo: cream!, emission: dark, rough: rough(0.4) },
        { mesh: moved(box(40, 70, 22), 26, 2, 14), albedo: dark, emission: dark, metal: gold, rough: rough(0.35) },
        // In front, so that its reflection lies on both.
        { mesh: moved(box(70, 70, 2), 10, 52, 110), albedo: dark, emission: tint(3) },
      ],
      [
        matte(floor!),
        { baseColor: cream!, specularRoughness: 0.4, specularIor: 1.5 },
        { baseColor: gold, baseMetalness: 1, specularRoughness: 0.35 },
        { ...matte(dark), emissionPower: lumens(area, 3), emissionKelvin: 6500, emissionTwoSided: false },
      ],
      3,
      5000,
      0.001,
    );
    expectAgreement(found);
  }, 240_000);
});
