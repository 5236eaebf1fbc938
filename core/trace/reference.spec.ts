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

describe('the kernel and a brute-force reference in double precision', () => {
  it('agree on light that bounces between matte parts, a luminous part and coloured surroundings', async () => {
    const wall = quad(120);
    const block = moved(box(24, 24, 24), -14, 0, 13);
    const lamp = moved(box(10, 10, 2), 20, 12, 30);
    const albedos: [number, number, number][] = [
      [0.8, 0.7, 0.6],
      [0.7, 0.2, 0.1],
      [0, 0, 0],
    ];
    // Radiance 6 over the lamp's surface of 280 mm²: its flux is π × area × radiance.
    const area = 2 * (10 * 10 + 10 * 2 + 10 * 2);
    const lumens = 683 * Math.PI * area * 1e-6 * 6;
    const finish = (k: number): Partial<Finish> => ({
      baseColor: albedos[k]!,
      specularWeight: 0,
      ...(k === 2 ? { emissionPower: lumens, emissionKelvin: 6500 } : {}),
    });
    const size = 12;
    const depth = 3;
    const meshes = [wall, block, lamp];
    const film = await renderScene(
      {
        parts: meshes.map((mesh, k) => ({ mesh, finish: finish(k) })),
        camera: { position: [0, 0, 150], focalLength: 60, sensorWidth: 36 },
        set: (set) => (set.surroundings.color = [0.1, 0.15, 0.3]),
      },
      { width: size, height: size, samples: 2048, depth },
    );
    // The lamp's colour is what the kernel shows of it; its luminance is what was asked for.
    const tint = lightColor(6500, [1, 1, 1]).map((v) => v * 6) as [number, number, number];
    const scene: ReferenceScene = {
      parts: meshes.map((mesh, k) => ({ mesh, albedo: albedos[k]!, emission: k === 2 ? tint : [0, 0, 0] })),
      surroundings: () => [0.1, 0.15, 0.3],
    };
    let seed = 12345;
    const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const tent = (u: number) => (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u));
    const tan = 36 / 2 / 60;
    const samples = 1500;
    const differences: number[] = [];
    for (let y = 0; y < size; y++) {
      for (let x = 0; x < size; x++) {
        let sum = 0;
        let squares = 0;
        for (let s = 0; s < samples; s++) {
          const sx = (2 * (x + 0.5 + tent(random()))) / size - 1;
          const sy = 1 - (2 * (y + 0.5 + tent(random()))) / size;
          const green = referenceRadiance(scene, [0, 0, 150], [sx * tan, sy * tan, -1], depth, random)[1];
          sum += green;
          squares += green * green;
        }
        const mean = sum / samples;
        const error = Math.sqrt(Math.max(1e-9, squares / samples - mean * mean) / samples) + 0.004;
        differences.push((film.pixel(x, y)[1] - mean) / error);
      }
    }
    // Within three standard errors nearly everywhere, and no lean to one side over the whole picture.
    expect(differences.filter((each) => Math.abs(each) > 3).length).toBeLessThanOrEqual(3);
    expect(Math.max(...differences.map(Math.abs))).toBeLessThan(6);
    expect(Math.abs(differences.reduce((sum, each) => sum + each, 0) / differences.length)).toBeLessThan(0.5);
  }, 120_000);
});
