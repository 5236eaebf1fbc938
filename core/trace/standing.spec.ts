import { describe, expect, it } from 'vitest';
import { newMap } from '../document';
import { box, quad, renderScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: glass that reflects nothing, rays that leave glass as if they entered it, and picture
// coordinates blended with the weights of the wrong corners each fail the test here.

/** Reflectance of one face of glass (index 1.5) for unpolarised light, cosine outside. */
function fresnel(cosine: number): number {
  const inside = Math.sqrt(1 - (1 - cosine * cosine) / 2.25);
  const s = (cosine - 1.5 * inside) / (cosine + 1.5 * inside);
  const p = (1.5 * cosine - inside) / (1.5 * cosine + inside);
  return (s * s + p * p) / 2;
}

/** Reflectance of a sheet: what goes to and fro between its two faces included. */
const sheet = (cosine: number): number => (2 * fresnel(cosine)) / (1 + fresnel(cosine));

describe('a printed dial under solid glass', () => {
  it('is as bright as light to and fro between print and glass makes it, and its marks stay where they are', async () => {
    // White on the left, dark on the right.
    const pixels = Uint8Array.from({ length: 512 * 512 * 4 }, (_, k) =>
      k % 4 === 3 ? 255 : (k >> 2) % 512 < 256 ? 204 : 51,
    );
    const maps = { baseColor: newMap('baseColor', 'print', { coding: 'linear' }) };
    const film = await renderScene(
      {
        parts: [
          // Each half is wide enough to be alone with the glass above it.
          {
            mesh: { ...quad(4000), uvs: new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]) },
            finish: { baseColor: [1, 1, 1], specularWeight: 0, maps },
          },
          {
            mesh: box(4000, 4000, 4),
            finish: { transmissionWeight: 1, specularRoughness: 0, specularIor: 1.5 },
            transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 4],
          },
        ],
        pictures: { print: { width: 512, height: 512, pixels } },
        camera: { position: [0, 0, 3000], focalLength: 60 },
        set: (set) => (set.surroundings.color = [1, 1, 1]),
      },
      { width: 32, height: 32, samples: 400, depth: 24 },
    );
    let spread = 0;
    const steps = 4000;
    for (let k = 0; k < steps; k++) spread += (2 * sheet((k + 0.5) / steps) * ((k + 0.5) / steps)) / steps;
    const seen = (albedo: number) => ((albedo * (1 - spread)) / (1 - spread * albedo)) * (1 - sheet(1)) + sheet(1);
    const mean = (from: number, to: number) => {
      let sum = 0;
      for (let y = 12; y < 20; y++) for (let x = from; x < to; x++) sum += film.pixel(x, y)[1] / 8 / (to - from);
      return sum;
    };
    expect(mean(8, 14) / seen(0.8)).toBeCloseTo(1, 1.9);
    expect(mean(18, 24) / seen(0.2)).toBeCloseTo(1, 1.9);
    // The edge of the print lies in the middle, within a pixel.
    expect(mean(14, 15)).toBeGreaterThan(0.9 * seen(0.8));
    expect(mean(17, 18)).toBeLessThan(1.15 * seen(0.2));
  });
});
