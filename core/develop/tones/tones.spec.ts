import { describe, expect, it } from 'vitest';
import { defaultLook, type Look } from '../../document';
import { decodeSrgb } from '../../optics';
import { grade } from '../grade';
import { TONES } from './index';

const names = Object.keys(TONES) as Look['tone'][];
/** Linear display light of exposed linear light. */
function shown(name: Look['tone'], color: readonly number[]): [number, number, number] {
  const { each, together } = TONES[name];
  const out = Float64Array.from(color);
  if (together) together(out);
  else for (let k = 0; k < 3; k++) out[k] = each!(out[k]!);
  return [...out] as [number, number, number];
}
const grey = (name: Look['tone'], light: number) => shown(name, [light, light, light])[0];

describe('every tone curve', () => {
  it.each(names)('%s rises all the way, from black on, without a jump', (name) => {
    expect(Math.abs(grey(name, 0))).toBeLessThan(1e-9);
    let before = 0;
    for (let light = 0.001; light < 40; light *= 1.01) {
      const value = grey(name, light);
      expect(value).toBeGreaterThanOrEqual(before);
      expect(value - before).toBeLessThan(name === 'straight' ? 1 : 0.02);
      before = value;
    }
  });

  it.each(names)('%s leaves grey grey, and goes through the pictures that are developed', (name) => {
    const look = { ...defaultLook(), tone: name };
    const color = [0.3, 0.12, 0.05];
    const coded = grade(new Float32Array([...color, 1, 0.18, 0.18, 0.18, 1]), look, null);
    expect(coded[4]).toBeCloseTo(coded[6]!, 5);
    shown(name, color).forEach((value, k) => expect(decodeSrgb(coded[k]!)).toBeCloseTo(Math.max(0, value), 3));
  });

  it('is one of its own: no two are alike', () => {
    const told = names.map((name) => [0.05, 0.18, 0.6, 1.5, 4].map((light) => grey(name, light).toFixed(2)).join(' '));
    expect(new Set(told).size).toBe(names.length);
  });
});

describe('true colours', () => {
  it('are base colours as they were set, with the 4 % that a surface reflects taken off', () => {
    for (const base of [[0.7, 0.2, 0.05], [0.04, 0.3, 0.6], [0.5, 0.5, 0.5]] as const)
      shown('trueColor', base.map((v) => v + 0.04)).forEach((v, k) => expect(v).toBeCloseTo(base[k]!, 6)); // prettier-ignore
  });

  it('stay of one hue where they are compressed, and become white far above', () => {
    const [r, g, b] = shown('trueColor', [2, 1.02, 0.04]);
    expect(r).toBeLessThan(1);
    expect([r > g, g > b]).toEqual([true, true]);
    const bright = shown('trueColor', [400, 200, 100]);
    expect(Math.min(...bright)).toBeGreaterThan(0.9);
  });
});

describe('wide', () => {
  it('keeps the ratio of the channels, and makes luminance 8 full white', () => {
    const [r, g, b] = shown('wide', [4, 2, 1]);
    expect([r / g, g / b]).toEqual([expect.closeTo(2, 9), expect.closeTo(2, 9)]);
    expect(grey('wide', 8)).toBeCloseTo(1, 9);
  });
});

describe('film', () => {
  it('makes light of 11.2 at its exposure full white', () => {
    expect(grey('film', 5.6)).toBeCloseTo(1, 9);
  });
});
