import { describe, expect, it } from 'vitest';
import { defaultLook, type Look } from '../document';
import { encodeSrgb, lightColor } from '../optics';
import { balanceGains, grade } from './grade';
import { curveThrough, readCube, type LookupTable } from './index';

const look = (over: Partial<Look> = {}): Look => ({ ...defaultLook(), ...over });
const straight: Look['curves']['all'] = [
  [0, 0],
  [1, 1],
];
/** One pixel's coded values. */
const graded = (rgb: number[], over: Partial<Look> = {}, lookup: LookupTable | null = null, alpha = 1) => [
  ...grade(new Float32Array([...rgb, alpha]), look(over), lookup),
];
const cube = (text: string) => readCube(text, 'test.cube');
/** A cube of a size whose entries are a function of theirs. */
function cubeOf(size: number, of: (r: number, g: number, b: number) => number[], head = ''): string {
  const lines = [];
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) lines.push(of(r / (size - 1), g / (size - 1), b / (size - 1)).join(' '));
  return `TITLE "made here"\n# a comment\n${head}LUT_3D_SIZE ${size}\n${lines.join('\n')}\n`;
}

describe('grading', () => {
  it('of a plain look is exposure, tone curve and display transfer', () => {
    const [r, g, b, a] = graded([0.1, 0.2, 0.3]);
    expect([r, g, b]).toEqual([0.1, 0.2, 0.3].map((v) => expect.closeTo(encodeSrgb(v), 4)));
    expect(a).toBe(1);
    expect(graded([0.05, 0.1, 0.15], { exposure: 1 })).toEqual([r, g, b, 1].map((v) => expect.closeTo(v!, 5)));
    // Premultiplied light is divided by its alpha.
    expect(graded([0.05, 0.1, 0.15], {}, null, 0.5).slice(0, 3)).toEqual([r, g, b].map((v) => expect.closeTo(v!, 5)));
  });

  it('makes light of the colour that is meant white, as bright as it was', () => {
    const warm = lightColor(3200, [1, 1, 1]).map((v) => v * 0.2);
    const [r, g, b] = graded(warm, { balanceKelvin: 3200 });
    const white = graded(lightColor(6500, [1, 1, 1]).map((v) => v * 0.2));
    expect([r, g, b]).toEqual(white.slice(0, 3).map((v) => expect.closeTo(v!, 4)));
    expect(balanceGains({ balanceKelvin: 6500, balanceTint: 0 })).toEqual([1, 1, 1]);
    const [mr, mg] = graded([0.2, 0.2, 0.2], { balanceTint: 0.5 });
    expect(mr).toBeGreaterThan(mg! + 0.02);
  });

  it('turns contrast about its pivot', () => {
    const coded = (v: number) => graded([v, v, v], { contrast: 1.5 })[0]!;
    expect(coded(0.18)).toBeCloseTo(encodeSrgb(0.18), 4);
    expect(coded(0.36)).toBeCloseTo(encodeSrgb(0.18 * 2 ** 1.5), 4);
    expect(coded(0.09)).toBeCloseTo(encodeSrgb(0.18 * 0.5 ** 1.5), 4);
  });

  it('takes colour away and adds it about the luminance', () => {
    const grey = graded([0.4, 0.1, 0.1], { saturation: 0 });
    const light = 0.2126 * 0.4 + 0.7874 * 0.1;
    for (const v of grey.slice(0, 3)) expect(v).toBeCloseTo(encodeSrgb(light), 3);
    const more = graded([0.3, 0.2, 0.2], { saturation: 2 });
    expect(more[0]).toBeCloseTo(encodeSrgb(2 * 0.3 - (0.2126 * 0.3 + 0.7874 * 0.2)), 3);
  });

  it('bends coded values by curves, each channel by its own and then by that of all', () => {
    const curves = { all: straight, green: straight, blue: straight, red: [[0, 0.5], [1, 1]] as [number, number][] }; // prettier-ignore
    const [r, g] = graded([0, 0, 0], { curves });
    expect([r, g]).toEqual([0.5, 0]);
    const inverted: [number, number][] = [[0, 1], [1, 0]]; // prettier-ignore
    const [ir, ig] = graded([0, 0, 0], { curves: { ...curves, all: inverted } });
    expect([ir, ig]).toEqual([0.5, 1]);
  });
});

describe('a curve through points', () => {
  it('meets them, never leaves their range and rises where they rise', () => {
    const points: [number, number][] = [[0, 0], [0.2, 0.02], [0.3, 0.8], [0.7, 0.85], [1, 1]]; // prettier-ignore
    const curve = curveThrough(points);
    for (const [x, y] of points) expect(curve(x)).toBeCloseTo(y, 12);
    let last = 0;
    for (let x = 0; x <= 1; x += 0.001) {
      expect(curve(x)).toBeGreaterThanOrEqual(last - 1e-12);
      last = curve(x);
    }
  });

  it('through two points is the line between, level beyond them', () => {
    const curve = curveThrough([[0.2, 0.3], [0.6, 0.5]]); // prettier-ignore
    expect([0, 0.2, 0.4, 0.6, 1].map(curve)).toEqual([0.3, 0.3, 0.4, 0.5, 0.5].map((v) => expect.closeTo(v, 12)));
  });
});

describe('look-up tables', () => {
  it('that change nothing change nothing, between entries too', () => {
    const table = cube(cubeOf(5, (r, g, b) => [r, g, b]));
    const plain = graded([0.07, 0.31, 0.55]);
    expect(graded([0.07, 0.31, 0.55], {}, table)).toEqual(plain.map((v) => expect.closeTo(v!, 5)));
  });

  it('have red change fastest, and are laid on by their amount', () => {
    const swapped = cube(cubeOf(3, (r, g, b) => [b, r, g]));
    const [r, g, b] = graded([0.1, 0.3, 0.6]);
    expect(graded([0.1, 0.3, 0.6], {}, swapped).slice(0, 3)).toEqual([b, r, g].map((v) => expect.closeTo(v!, 5)));
    const half = graded([0.1, 0.3, 0.6], { lookupAmount: 0.5 }, swapped);
    expect(half[0]).toBeCloseTo((r! + b!) / 2, 5);
    expect(graded([0.1, 0.3, 0.6], { lookupAmount: 0 }, swapped)).toEqual(graded([0.1, 0.3, 0.6]));
  });

  it('are linear within each of a cell\u2019s six tetrahedra, whatever the order of the channels', () => {
    const size = 4;
    const of = (r: number, g: number, b: number) => [r * g, g * b, b * r];
    const table = cube(cubeOf(size, of));
    for (const [r, g, b] of [[0.9, 0.5, 0.1], [0.9, 0.1, 0.5], [0.5, 0.9, 0.1], [0.1, 0.9, 0.5], [0.5, 0.1, 0.9], [0.1, 0.5, 0.9]] as const) {
      const linear = [r, g, b].map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
      const got = graded(linear, {}, table);
      // Products of two are missed between entries by at most a quarter of a step squared, twice over.
      const exact = graded(linear).slice(0, 3) as [number, number, number];
      of(...exact).forEach((v, k) => expect(Math.abs(got[k]! - v)).toBeLessThan(0.5 / (size - 1) ** 2));
    }
  }); // prettier-ignore

  it('of one dimension act on each channel, over their domain', () => {
    const table = cube('LUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n0 0 0\n1 0.5 0\n1 1 1\n');
    const [r, g, b] = graded([1, 1, 1], { tone: 'neutral' }, table);
    const value = graded([1, 1, 1])[0]!;
    expect([r, g, b]).toEqual([value, value * 0.5, 0].map((v) => expect.closeTo(v, 5)));
  });

  it.each([
    ['', 'it gives no size'],
    ['LUT_3D_SIZE 1\n0 0 0', 'its size is not from 2 to 129'],
    ['LUT_3D_SIZE 999999\n', 'its size is not from 2 to 129'],
    ['LUT_3D_SIZE 2\nLUT_1D_SIZE 2\n', 'line 2 gives a second size'],
    ['LUT_3D_SIZE 2\n0 0 0\n', 'it holds 1 of 8 entries'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n1 1 1', 'it holds more entries than its size says'],
    ['LUT_1D_SIZE 2\n0 0 zero\n', 'line 2 holds no three numbers'],
    ['LUT_1D_SIZE 2\n0 nan 0\n', 'line 2 holds no three numbers'],
    ['LUT_1D_SIZE 2\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n', 'its domain is empty'],
    ['0 0 0\n', 'it gives no size'],
    ['\u0000\u0001PK', 'line 1 holds no three numbers'],
  ])('that are broken are refused with what is wrong: %j', (text, why) => {
    expect(() => cube(text)).toThrow(`"test.cube" cannot serve as a look-up table: ${why}.`);
  });

  it('never make a value that is no number, whatever they hold', () => {
    const table = cube('LUT_1D_SIZE 2\n-1e39 0 1e308\n1e39 1 -5\n');
    for (const v of graded([0.2, 0.4, 0.9], {}, table)) expect(Number.isFinite(v)).toBe(true);
  });
});
