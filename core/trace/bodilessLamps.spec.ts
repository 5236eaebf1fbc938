import { describe, expect, it } from 'vitest';
import { newLight, type Finish, type Light } from '../document';
import { luminance } from '../optics';
import { quad, renderScene, sphere } from './testing/renderState';

// Tried by breaking the kernel on purpose: paths that end at lamps, and lamps that are met whole beside their samples, each fail here.

const kinds: [Light['kind'], Partial<Light>][] = [
  ['panel', { width: 160, height: 160 }],
  ['disc', { radius: 90 }],
  ['tube', { width: 200, radius: 40 }],
  ['bulb', { radius: 70 }],
  ['spot', { radius: 80, coneAngle: 2 }],
];
const lamp = (kind: Light['kind'], over: Partial<Light>) => newLight(kind, { id: 'l', kelvin: 6500, ...over });

describe('lamps have no body', () => {
  it.each(kinds)('a dim %s close over a floor under white surroundings changes nothing', async (kind, size) => {
    const light = lamp(kind, { position: [0, 0, 100], target: [0, 0, 0], power: 1e-7, ...size });
    const { mean } = await renderScene(
      {
        parts: [{ mesh: quad(4000), finish: { baseColor: [0.8, 0.8, 0.8], specularWeight: 0 } }],
        lights: [light],
        // Between the lamp and the floor, and through the lamp from behind it.
        camera: { position: [0, 0, kind === 'panel' ? 20 : 400], focalLength: 100 },
        set: (set) => (set.surroundings.color = [1, 1, 1]),
      },
      { samples: 1024, depth: 4 },
    );
    for (const part of mean) expect(Math.abs(part / 0.8 - 1)).toBeLessThan(0.003);
  });

  it.each(kinds)('a closed room keeps what a %s in it sends out', async (kind, size) => {
    const wall: Partial<Finish> = { baseColor: [0.5, 0.5, 0.5], specularWeight: 0 };
    const light = lamp(kind, { position: [0, 0, 0], target: [0, 0, -100], power: 683, ...size });
    const { mean } = await renderScene(
      {
        parts: [{ mesh: sphere(250, 48), finish: wall }],
        lights: [light],
        // The wall behind the lamp, seen through it.
        camera: { position: [0, 0, -200], target: [0, 0, 100], focalLength: 60 },
      },
      { samples: 1024, depth: 32 },
    );
    // In a sphere all light that was scattered once falls evenly. Flat lamps send none straight to the wall behind them.
    const [area, albedo] = [4 * Math.PI * 0.25 ** 2, 0.5];
    const scattered = (albedo * albedo) / (area * (1 - albedo)) / Math.PI;
    const flat = kind !== 'bulb' && kind !== 'tube';
    if (flat) expect(luminance(mean) / scattered).toBeCloseTo(1, 1.8);
    else expect(luminance(mean)).toBeGreaterThan(scattered);
  });

  it("shows what stands behind a lamp that the camera sees, with the lamp's own light on top", async () => {
    const glow = {
      mesh: quad(400),
      finish: {
        baseColor: [0, 0, 0],
        specularWeight: 0,
        emissionUnit: 'nit',
        emissionPower: 683,
        emissionKelvin: 6500,
      } as Partial<Finish>,
    };
    const light = lamp('panel', {
      position: [0, 0, 40],
      target: [0, 0, 100],
      width: 80,
      height: 80,
      unit: 'nit',
      power: 683,
      visibleToCamera: true,
    });
    const film = await renderScene({ parts: [glow], lights: [light] }, { samples: 16 });
    expect(luminance(film.pixel(8, 8))).toBeCloseTo(2, 3);
  });
});
