import { describe, expect, it } from 'vitest';
import { newLight, type Finish, type StudioSet } from '../document';
import { composeTransform } from '../geometry';
import { lampRadiance, luminance } from '../optics';
import { box, quad, renderScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: the density of the equiangular choice without its angle, scattered light without the
// way to the lamp, and a phase function with the other sign each fail a test here.

const black: Partial<Finish> = { baseColor: [0, 0, 0], specularWeight: 0 };
const fog =
  (density: number, color: number, anisotropy = 0, reach = 100_000) =>
  (set: StudioSet) => {
    set.air = { density, color: [color, color, color], anisotropy, reach };
  };

describe('fog', () => {
  it('that only absorbs dims what is behind it by the law of Beer and Lambert', async () => {
    const wall = { mesh: quad(2000), finish: { ...black, emissionUnit: 'nit', emissionPower: 683 } as Partial<Finish> };
    const { mean } = await renderScene(
      { parts: [wall], camera: { position: [0, 0, 700], focalLength: 200 }, set: fog(2, 0) },
      { samples: 16 },
    );
    expect(luminance(mean) / Math.exp(-2 * 0.7)).toBeCloseTo(1, 2);
  });

  it('that only scatters changes nothing under light from everywhere', async () => {
    const { mean } = await renderScene(
      {
        set: (set) => {
          fog(1, 1, 0.6, 1500)(set);
          set.surroundings.color = [1, 1, 1];
        },
      },
      { samples: 1024, depth: 64 },
    );
    for (const part of mean) expect(Math.abs(part - 1)).toBeLessThan(0.03);
  });

  it.each([0, 0.7, -0.5])('glows beside a bulb as single scattering says, anisotropy %f', async (g) => {
    const bulb = newLight('bulb', { position: [0, 60, 0], radius: 1, power: 683, kelvin: 6500 });
    const density = 0.5;
    const reach = 2000;
    const { mean } = await renderScene(
      {
        lights: [bulb],
        camera: { position: [0, 0, 400], target: [0, 0, 0], focalLength: 4000 },
        set: fog(density, 0.8, g, reach),
      },
      { samples: 512, depth: 1 },
    );
    const intensity = lampRadiance(bulb) * Math.PI;
    const sigma = density / 1000;
    let expected = 0;
    const steps = 200_000;
    for (let k = 0; k < steps; k++) {
      const t = ((k + 0.5) / steps) * reach;
      const [dy, dz] = [60, -(400 - t)];
      const d = Math.hypot(dy, dz);
      // The ray goes along -z; the cosine is that between its way and the way on to the lamp.
      const cosine = -dz / d;
      const phase = (1 - g * g) / (4 * Math.PI * (1 + g * g - 2 * g * cosine) ** 1.5);
      expected += ((Math.exp(-sigma * (t + d)) * 0.8 * sigma * phase * intensity) / d ** 2) * (reach / steps);
    }
    expect(luminance(mean) / expected).toBeCloseTo(1, 1.7);
  });

  it('shows the beam of a spot, and the shadow of what stands in it', async () => {
    const spot = newLight('spot', {
      position: [-150, 0, 0],
      target: [0, 0, 0],
      radius: 5,
      coneAngle: 0.3,
      penumbra: 0,
      power: 683,
    });
    const scene = {
      lights: [spot],
      camera: { position: [0, 0, 400] as [number, number, number], focalLength: 36 },
      set: fog(0.5, 1),
    };
    const settings = { width: 32, height: 32, samples: 64, depth: 2 };
    const free = await renderScene(scene, settings);
    const blocker = {
      mesh: box(4, 120, 120),
      finish: black,
      transform: composeTransform([0, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    };
    const shaded = await renderScene({ ...scene, parts: [blocker] }, settings);
    expect(luminance(free.pixel(20, 16))).toBeGreaterThan(5 * luminance(free.pixel(20, 3)));
    expect(luminance(shaded.pixel(22, 16))).toBeLessThan(0.1 * luminance(free.pixel(22, 16)));
    expect(luminance(shaded.pixel(10, 16)) / luminance(free.pixel(10, 16))).toBeGreaterThan(0.8);
  });
});

describe('cloudy matter lit from behind', () => {
  it.each([
    ['wax', { subsurfaceWeight: 1, subsurfaceColor: [0.9, 0.7, 0.5], subsurfaceRadius: 4, specularWeight: 0 }],
    [
      'cloudy plastic',
      {
        transmissionWeight: 1,
        specularRoughness: 0.2,
        transmissionColor: [0.9, 0.8, 0.6],
        transmissionDepth: 10,
        transmissionScatter: [1, 1, 1],
      },
    ],
  ] as [string, Partial<Finish>][])('%s glows, the thinner the more', async (_, finish) => {
    const glow = async (thickness: number) => {
      const slab = { mesh: box(120, 120, thickness), finish };
      const light = newLight('panel', {
        position: [0, 0, -200],
        target: [0, 0, 0],
        width: 100,
        height: 100,
        power: 200,
      });
      const { mean } = await renderScene(
        { parts: [slab], lights: [light], camera: { position: [0, 0, 300], focalLength: 300 } },
        { samples: 512, depth: 32 },
      );
      return luminance(mean);
    };
    const [thin, thick] = [await glow(4), await glow(16)];
    expect(thick).toBeGreaterThan(0.002);
    expect(thin).toBeGreaterThan(1.5 * thick);
  });
});

describe('dispersion', () => {
  it('spreads a bright line into a rainbow on the far side of a prism, red least', async () => {
    // A wedge of strongly dispersing glass before a thin luminous strip.
    const prism = {
      positions: new Float32Array([-60, -60, 0, 60, -60, 0, 60, 60, 0, -60, 60, 0, -60, -60, 50, -60, 60, 50]),
      normals: new Float32Array([0, 0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1, 0.38, 0, 0.92, 0.38, 0, 0.92]),
      indices: new Uint32Array([0, 3, 2, 0, 2, 1, 4, 1, 2, 4, 2, 5, 0, 1, 4, 3, 5, 2, 0, 4, 5, 0, 5, 3]),
    };
    // Flat faces: every triangle has its own corners.
    const corners = [...prism.indices];
    const positions = new Float32Array(corners.flatMap((v) => [...prism.positions.subarray(v * 3, v * 3 + 3)]));
    const normals = new Float32Array(positions.length);
    for (let at = 0; at < positions.length; at += 9) {
      const p = (k: number, c: number) => positions[at + k * 3 + c]!;
      const [a, b] = [[0, 1, 2].map((c) => p(1, c) - p(0, c)), [0, 1, 2].map((c) => p(2, c) - p(0, c))] as [
        number[],
        number[],
      ];
      const n = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!];
      const size = Math.hypot(...n);
      for (let k = 0; k < 3; k++)
        normals.set(
          n.map((v) => v / size),
          at + k * 3,
        );
    }
    const mesh = { positions, normals, indices: new Uint32Array(corners.map((_, k) => k)) };
    const finish: Partial<Finish> = {
      transmissionWeight: 1,
      specularRoughness: 0,
      specularIor: 1.6,
      transmissionDispersionScale: 1,
      transmissionDispersionAbbeNumber: 12,
    };
    const strip = {
      mesh: quad(1),
      finish: { ...black, emissionUnit: 'nit', emissionPower: 6830 } as Partial<Finish>,
      transform: composeTransform([0, 0, -100], [0, 0, 0, 1], [3, 200, 1]),
    };
    const film = await renderScene(
      { parts: [{ mesh, finish }, strip], camera: { position: [0, 0, 300], focalLength: 50 } },
      { width: 160, height: 4, samples: 512, depth: 6 },
    );
    const middle = [0, 1, 2].map((channel) => {
      let sum = 0;
      let weighted = 0;
      // Left of it stands what was reflected inside the glass.
      for (let x = 70; x < 160; x++) {
        const light = film.pixel(x, 2)[channel]!;
        sum += light;
        weighted += light * x;
      }
      return weighted / sum;
    }) as [number, number, number];
    // Seen through the wedge the strip stands aside; blue is bent most.
    const bent = middle.map((x) => Math.abs(x - 79.5));
    expect(bent[2]!).toBeGreaterThan(bent[1]! + 0.3);
    expect(bent[1]!).toBeGreaterThan(bent[0]! + 0.3);
  });
});
