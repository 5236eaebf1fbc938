import { describe, expect, it } from 'vitest';
import {
  encodeFrame,
  keptLayers,
  leavingExr,
  probeLayers,
  readExr,
  readExrHeader,
  showLayer,
  showMatte,
} from '../develop';
import { defaultLook, LAYERS, newLight } from '../document';
import { composeTransform } from '../geometry';
import { quad, renderScene, sphere } from './testing/renderState';

// A red ball before a wall, nothing behind: what a rendered frame shows by each of its layers.
const film = await renderScene(
  {
    parts: [
      { mesh: sphere(10), finish: { baseColor: [0.8, 0.05, 0.05] } },
      { mesh: quad(40), finish: { baseColor: [0.2, 0.2, 0.2] }, transform: composeTransform([0, 0, -12], [0, 0, 0, 1], [1, 1, 1]) }, // prettier-ignore
    ],
    lights: [newLight('panel', { id: 'key', name: 'Key', position: [-40, 60, 80], width: 40, height: 40, power: 8 })],
    set: (set) => (set.behind.kind = 'transparent'),
    camera: { focalLength: 50 },
  },
  { width: 40, height: 30, samples: 32, layers: [...LAYERS] },
);
const bytes = encodeFrame({ ...film.frame, film: film.film }, 'shown');
const look = defaultLook();
const middle = (15 * 40 + 20) * 4;
const shown = (layer: string) => showLayer(bytes, layer, look)!;

describe('layers of a kept frame', () => {
  it('are those that it keeps, with each light by its name', () => {
    expect(keptLayers(bytes)).toEqual([
      ...['alpha', 'product', 'depth', 'normal', 'albedo', 'parts', 'finishes', 'shadow', 'occlusion', 'emission', 'position', 'motion', 'noise'],
      ...['light:Key', 'light:Surroundings'].filter((name) => keptLayers(bytes).includes(name)),
    ]); // prettier-ignore
    expect(keptLayers(bytes)).toContain('light:Key');
    expect(showLayer(bytes, 'light:Gone', look)).toBeNull();
    expect(showLayer(bytes, 'constructor', look)).toBeNull();
  });

  // The product alone is developed as the whole picture is.
  it.each(keptLayers(bytes).filter((layer) => layer !== 'product'))('%s is a picture without holes', (layer) => {
    const { pixels, width, height } = shown(layer);
    expect([width, height, pixels.length]).toEqual([40, 30, 40 * 30 * 4]);
    expect(pixels.every((value) => value >= -0.01 && value <= 1.01)).toBe(true);
  });

  it('show what is near bright, and say how far black and white are', () => {
    const { pixels, range } = shown('depth');
    const wall = (15 * 40 + 9) * 4;
    expect(pixels[middle]).toBeGreaterThan(pixels[wall]! + 0.3);
    expect(pixels[0]).toBe(0);
    expect(range!.unit).toBe('mm');
    // The camera stands at 100 mm: the ball begins at 90, the wall lies at 112.
    expect([range!.low, range!.high]).toEqual([expect.closeTo(90, -0.5), expect.closeTo(112, 0)]);
  });

  it('show normals, base colour and coverage as what they are', () => {
    expect([...shown('normal').pixels.subarray(middle, middle + 3)]).toEqual([
      expect.closeTo(0.5, 1),
      expect.closeTo(0.5, 1),
      expect.closeTo(1, 1),
    ]);
    const [r, g] = shown('albedo').pixels.subarray(middle, middle + 2);
    expect(r! / g!).toBeGreaterThan(2.5);
    expect([shown('alpha').pixels[middle], shown('alpha').pixels[0]]).toEqual([1, 0]);
  });
});

describe('mattes', () => {
  const point = (x: number, y: number) => probeLayers(bytes, { x, y }, look);

  it('are made of what is pointed at, white there and black elsewhere, with soft edges', () => {
    const ball = point(0.5, 0.5).part!;
    const wall = point(0.25, 0.5).part!;
    expect(ball).not.toBe(wall);
    const matte = showMatte(bytes, { of: 'parts', names: [ball] }, look).pixels;
    expect([matte[middle], matte[(15 * 40 + 9) * 4], matte[0]]).toEqual([1, 0, 0]);
    const soft = matte.filter((value, k) => k % 4 === 0 && value > 0.05 && value < 0.95).length;
    expect(soft).toBeGreaterThan(5);
    // Both together cover what the frame covers.
    const both = showMatte(bytes, { of: 'parts', names: [ball, wall] }, look).pixels;
    const cover = shown('alpha').pixels;
    for (let at = 0; at < both.length; at += 4) expect(both[at]).toBeCloseTo(cover[at]!, 2);
    expect(showMatte(bytes, { of: 'parts', names: ['Gone'] }, look).pixels[middle]).toBe(0);
  });

  it('and the light at a point are told, within the picture', () => {
    const { light, alpha, depth } = point(0.5, 0.5);
    expect(light[0]).toBeGreaterThan(3 * light[1]);
    expect([alpha, depth]).toEqual([1, expect.closeTo(90, -0.5)]);
    expect(point(0, 0)).toMatchObject({ alpha: 0, depth: null, part: null });
    expect(() => point(1, 1)).not.toThrow();
  });
});

describe('an EXR that leaves', () => {
  const names = (file: Uint8Array) => readExrHeader(file).channels.map(({ name }) => name);

  it('holds what others can use, and what was cleaned as it was rendered too', () => {
    const cleaned = new Float32Array(40 * 30 * 4).fill(0.25);
    const [file] = leavingExr(bytes, cleaned, { samples: 'half', apart: false });
    expect(names(file!.bytes)).toEqual(
      expect.arrayContaining(['R', 'raw.R', 'A', 'Z', 'light_Key.R', 'crypto_part00.R']),
    );
    expect(names(file!.bytes).some((name) => /^(spread|specks|part\.id)/.test(name))).toBe(false);
    const { channels } = readExr(file!.bytes);
    const plane = (name: string) => channels.find((each) => each.name === name)!.data;
    expect(new Set(plane('R'))).toEqual(new Set([0.25]));
    const [raw, key] = [plane('raw.R'), plane('light_Key.R')];
    expect(raw[15 * 40 + 20]).toBeGreaterThan(0.8 * key[15 * 40 + 20]!);
    // What ids stand for goes along.
    expect(Object.keys(readExrHeader(file!.bytes).text).some((key) => key.endsWith('/manifest'))).toBe(true);
  });

  it('comes in full floats, and apart as one file a layer', () => {
    const [whole] = leavingExr(bytes, null, { samples: 'float', apart: false });
    expect(new Set(readExrHeader(whole!.bytes).channels.map(({ type }) => type))).toEqual(new Set(['float']));
    expect(names(whole!.bytes)).not.toContain('raw.R');
    const files = leavingExr(bytes, null, { samples: 'half', apart: true });
    expect(files.map(({ layer }) => layer)).toEqual(
      expect.arrayContaining(['picture', 'depth', 'normal', 'light_Key', 'crypto_part', 'crypto_finish']),
    );
    const mattes = files.find(({ layer }) => layer === 'crypto_part')!;
    expect(names(mattes.bytes).every((name) => name.startsWith('crypto_part'))).toBe(true);
    expect(Object.values(readExrHeader(mattes.bytes).text)).toContain('crypto_part');
    expect(files.flatMap(({ bytes: each }) => names(each))).toHaveLength(names(whole!.bytes).length);
  });
});
