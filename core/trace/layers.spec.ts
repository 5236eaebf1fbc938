import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { encodeFrame, matteId, readExr } from '../develop';
import { newLight, type Finish } from '../document';
import { composeTransform } from '../geometry';
import { frameState, quad, renderScene, sphere, type TestFilm, type TestScene } from './testing/renderState';
import { LAYERS } from '../document';

// Tried by breaking the kernel on purpose: sampled light counted with the surroundings, motion told the other way round, and
// mattes without the pixel's other names each fail a test here.

const red: Partial<Finish> = { baseColor: [0.8, 0.1, 0.1] };
const key = newLight('panel', {
  id: 'key',
  name: 'Key light',
  position: [-40, 60, 80],
  width: 40,
  height: 40,
  power: 8,
});
const rim = newLight('bulb', {
  id: 'rim',
  name: 'Rim: warm',
  position: [60, 30, -20],
  radius: 4,
  power: 5,
  kelvin: 2700,
});
const scene: TestScene = {
  parts: [
    { mesh: sphere(10), finish: red },
    { mesh: quad(120), finish: {}, transform: composeTransform([0, 0, -12], [0, 0, 0, 1], [1, 1, 1]) },
    {
      mesh: sphere(4),
      finish: { emissionPower: 2, emissionKelvin: 3000 },
      transform: composeTransform([16, 8, 0], [0, 0, 0, 1], [1, 1, 1]),
    },
  ],
  lights: [key, rim],
  set: (set) => (set.surroundings.color = [0.1, 0.12, 0.15]),
  camera: { focalLength: 50 },
};
const settings = { width: 40, height: 30, samples: 64, layers: [...LAYERS] };
const at = (film: TestFilm, x: number, y: number) => (y * film.width + x) * film.frame.floats;
const lightOf = (film: TestFilm, group: string, x: number, y: number) => {
  const from = at(film, x, y) + film.frame.layers.lights! + film.frame.groups.indexOf(group) * 3;
  return [film.film[from]!, film.film[from + 1]!, film.film[from + 2]!];
};
const rendered = await renderScene(scene, settings);

describe('depth', () => {
  it('is the distance along the axis as Z, the same all over a wall that faces the camera, and the length of the ray besides', async () => {
    const film = await renderScene(
      { parts: [{ mesh: quad(400), finish: red }], camera: { focalLength: 30 } },
      { width: 32, height: 32, samples: 64 },
    );
    const kept = { ...film.frame, film: film.film };
    const { channels } = readExr(encodeFrame(kept, 'depth'));
    const plane = (name: string) => channels.find((channel) => channel.name === name)!.data;
    const [z, length] = [plane('Z'), plane('distance.Y')];
    for (const depth of z) expect(depth).toBeCloseTo(100, 2);
    // In the corner the line of sight has slopes of 0.6 both ways.
    expect(length[16 * 32 + 16]).toBeCloseTo(100, 0);
    expect(length[0]! / (100 * Math.hypot(1, 0.58, 0.58))).toBeCloseTo(1, 1.7);
  });
});

describe('light layers', () => {
  it('are there for a lamp that shines on another frame of the shot, black on this one', async () => {
    const state = frameState(scene);
    const sources = {
      lamps: [key, { id: 'blink', name: 'Blinker', group: '' }, rim],
      finishes: ['Finish 2', 'Indicator'],
    };
    const film = await renderScene({ ...scene, state: { ...state, sources } }, { ...settings, samples: 4 });
    expect(film.frame.groups).toEqual(['Surroundings', 'Key light', 'Blinker', 'Rim: warm', 'Finish 2', 'Indicator']);
    expect(lightOf(film, 'Blinker', 20, 15)).toEqual([0, 0, 0]);
    expect(Math.max(...lightOf(film, 'Key light', 16, 11))).toBeGreaterThan(0);
  });

  it('are named by their lights and add up to the picture exactly', () => {
    expect(rendered.frame.groups).toEqual(['Surroundings', 'Key light', 'Rim: warm', 'Finish 2']);
    for (let y = 0; y < 30; y++) {
      for (let x = 0; x < 40; x++) {
        const sum = [0, 0, 0];
        for (const group of rendered.frame.groups)
          lightOf(rendered, group, x, y).forEach((v, c) => (sum[c] = Math.fround(sum[c]! + v)));
        expect(sum).toEqual(rendered.pixel(x, y));
      }
    }
  });

  it('of a group are shared', async () => {
    const lights = [key, rim].map((light) => ({ ...light, group: 'Both' }));
    const { frame } = await renderScene({ ...scene, lights }, { ...settings, samples: 1 });
    expect(frame.groups).toEqual(['Surroundings', 'Both', 'Finish 2']);
  });

  it('weighed anew are what a render with the lights at other powers gives', async () => {
    const long = { ...settings, width: 16, height: 12, samples: 1024 };
    const first = await renderScene(scene, long);
    const other = await renderScene(
      {
        ...scene,
        lights: [
          { ...key, power: key.power * 0.25 },
          { ...rim, power: rim.power * 3 },
        ],
      },
      long,
    );
    const weights: Record<string, number> = { 'Key light': 0.25, 'Rim: warm': 3 };
    let [difference, light] = [0, 0];
    for (let y = 0; y < 12; y++) {
      for (let x = 0; x < 16; x++) {
        const balanced = [0, 1, 2].map((c) =>
          first.frame.groups.reduce((sum, group) => sum + (weights[group] ?? 1) * lightOf(first, group, x, y)[c]!, 0),
        );
        other.pixel(x, y).forEach((v, c) => {
          difference += Math.abs(v - balanced[c]!);
          light += v;
        });
      }
    }
    expect(difference / light).toBeLessThan(0.03);
  });
});

describe('further layers', () => {
  const value = (layer: keyof typeof rendered.frame.layers, x: number, y: number, k = 0) =>
    rendered.film[at(rendered, x, y) + rendered.frame.layers[layer]! + k]!;

  it('tell places, emission and openness', () => {
    const [x, y, z] = [0, 1, 2].map((k) => value('position', 20, 15, k)) as [number, number, number];
    expect(Math.hypot(x, y, z)).toBeGreaterThan(9.8);
    expect(Math.hypot(x, y, z)).toBeLessThan(10.05);
    // The ball at 16, 8 shines of itself; the red one does not.
    const ball = [20 + Math.round(16 / 1.8), 15 - Math.round(8 / 1.8)] as const;
    expect(value('emission', ...ball)).toBeGreaterThan(0.1);
    expect(value('emission', 20, 15)).toBe(0);
    expect(value('occlusion', 20, 15)).toBeCloseTo(1, 1);
  });

  it('tell in pixels where a part goes until the next frame', async () => {
    const state = frameState(scene);
    const next = structuredClone(state);
    next.parts[0]!.transform = composeTransform([3.6, 1.8, 0], [0, 0, 0, 1], [1, 1, 1]);
    const film = await renderScene({ ...scene, state: { ...state, next } }, { ...settings, samples: 16 });
    const motion = [0, 1].map((k) => film.film[at(film, 20, 15) + film.frame.layers.motion! + k]!);
    // 36 mm over 50 at 90 mm: 40 pixels are 64.8 mm.
    expect(motion[0]).toBeCloseTo((3.6 * 40) / 64.8, 0.8);
    expect(motion[1]).toBeCloseTo((-1.8 * 40) / 64.8, 0.8);
    expect(film.film[at(film, 3, 3) + film.frame.layers.motion!]).toBeCloseTo(0, 4);
  });

  it('catch the shadow on the floor', async () => {
    const film = await renderScene(
      {
        ...scene,
        parts: [{ mesh: sphere(10), finish: red }],
        lights: [newLight('sun', { id: 'sun', position: [70, 100, 0], power: 1000 })],
        set: (set) => {
          set.floor = { ...set.floor, kind: 'floor', size: 400 };
        },
        camera: { position: [0, 60, 60], target: [0, 0, 0], focalLength: 40 },
      },
      { ...settings, samples: 32 },
    );
    const shade = (x: number, y: number) => {
      const from = at(film, x, y) + film.frame.layers.shadow!;
      return film.film[from + 1]! > 0 ? 1 - film.film[from]! / film.film[from + 1]! : 0;
    };
    expect(shade(2, 28)).toBeLessThan(0.02);
    expect(Math.max(...Array.from({ length: 1200 }, (_, k) => shade(k % 40, Math.floor(k / 40))))).toBeGreaterThan(0.9);
  });
});

describe('the file', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zippy-layers-'));
  const path = join(folder, 'frame.exr');
  writeFileSync(path, encodeFrame({ ...rendered.frame, film: rendered.film }, 'e'.repeat(64)));
  const installed = (program: string) => spawnSync(program, ['--help'], { stdio: 'ignore' }).error === undefined;

  it('has every layer, and mattes that cover the picture with names from the manifest', () => {
    const { channels } = readExr(new Uint8Array(readFileSync(path)));
    const names = channels.map((channel) => channel.name);
    for (const name of [
      'position.X',
      'motion.Y',
      'emission.G',
      'shadow.Y',
      'occlusion.Y',
      'light_Surroundings.R',
      'light_Key_light.G',
      'light_Rim_warm.B',
    ])
      expect(names).toContain(name);
    const plane = (name: string) => channels.find((channel) => channel.name === name)!.data as Float32Array;
    const ids = new Uint32Array(plane('crypto_part00.R').buffer);
    const covered = plane('crypto_part00.G');
    expect(ids[15 * 40 + 20]).toBe(matteId('Part 0'));
    expect(covered[15 * 40 + 20]).toBeCloseTo(1, 5);
    // Every pixel's parts add up to what is not background.
    const all = ['00.G', '00.A', '01.G', '01.A', '02.G', '02.A'].map((end) => plane(`crypto_part${end}`));
    const edge = all.reduce((sum, each) => sum + each[15 * 40 + 14]!, 0);
    expect(edge).toBeCloseTo(1, 5);
    expect(plane('crypto_part00.A').some((v) => v > 0.1)).toBe(true);
  });

  it('computes the ids of the published examples', () => {
    // From the Cryptomatte specification: "hello" hashes to 0x248bfa47.
    expect(matteId('hello')).toBe(0x248bfa47);
  });

  it.skipIf(!installed('exrheader'))('is read by exrheader', () => {
    const text = execFileSync('exrheader', [path], { encoding: 'utf8' });
    expect(text).toContain('zip, multi-scanline blocks');
    expect(text).toMatch(/light_Key_light\.R, 16-bit floating-point/);
    expect(text).toMatch(/crypto_part00\.R, 32-bit floating-point/);
    expect(text).toContain('MurmurHash3_32');
    expect(text).toContain('"Part 0"');
  });

  it.skipIf(!installed('oiiotool'))('is read by oiiotool, whose sum of the light layers is the picture', () => {
    const lights = ['Surroundings', 'Key_light', 'Rim_warm', 'Finish_2'];
    const pick = (name: string) => ['-i', path, '--ch', `light_${name}.R,light_${name}.G,light_${name}.B`];
    // Halves keep eleven bits of each layer.
    const same = (names: string[]) => {
      const sum = [...pick(names[0]!), ...names.slice(1).flatMap((name) => [...pick(name), '--add'])];
      const bounds = ['--fail', '0.02', '--hardfail', '0.02', '--warn', '1'];
      return spawnSync('oiiotool', [...sum, '-i', path, '--ch', 'R,G,B', ...bounds, '--diff'], { stdio: 'ignore' })
        .status;
    };
    expect(same(lights)).toBe(0);
    expect(same(lights.slice(1))).not.toBe(0);
  });
});
