import { describe, expect, it } from 'vitest';
import { newCamera, newFinish } from '../document';
import {
  absorption,
  blackBody,
  bulbRadiance,
  circleOfConfusion,
  decodeSrgb,
  encodeSrgb,
  hexFromLinear,
  lambertianRadiance,
  lightColor,
  linearFromHex,
  luminance,
  radianceFromNits,
} from './index';

describe('light', () => {
  it('a square metre of 683 π lumens has 683 nits', () => {
    expect(lambertianRadiance(683 * Math.PI, 1e6)).toBeCloseTo(1, 9);
    expect(radianceFromNits(683)).toBe(1);
  });

  it('a bulb keeps its flux when it grows', () => {
    expect(bulbRadiance(100, 10) / bulbRadiance(100, 20)).toBeCloseTo(4, 9);
  });

  it('of a black body has luminance 1, is red when cool, white at 6500 K and blue when hot', () => {
    for (const kelvin of [1000, 2700, 6500, 20000]) expect(luminance(blackBody(kelvin))).toBeCloseTo(1, 9);
    const [warmR, , warmB] = blackBody(2700);
    expect(warmR / warmB).toBeGreaterThan(4);
    for (const part of blackBody(6504)) expect(part).toBeCloseTo(1, 0.9);
    expect(blackBody(15000)[2]).toBeGreaterThan(blackBody(15000)[0]);
  });

  it('keeps its lumens through a tint, and is black through a black one', () => {
    expect(luminance(lightColor(4000, [0.1, 1, 0.2]))).toBeCloseTo(1, 9);
    expect(lightColor(4000, [0, 0, 0])).toEqual([0, 0, 0]);
  });
});

describe('colour', () => {
  it('goes to sRGB and back', () => {
    for (let v = 0; v <= 1; v += 0.05) expect(decodeSrgb(encodeSrgb(v))).toBeCloseTo(v, 6);
    expect(hexFromLinear(linearFromHex('#3fa2c7')!)).toBe('#3fa2c7');
    expect(linearFromHex('no colour')).toBeNull();
  });
});

describe('glass', () => {
  it('has its colour after its depth', () => {
    const finish = newFinish({ transmissionColor: [0.5, 0.9, 0.1], transmissionDepth: 20 });
    absorption(finish).forEach((part, k) => expect(Math.exp(-part * 20)).toBeCloseTo(finish.transmissionColor[k]!, 9));
  });
});

describe('lens', () => {
  it('is sharp at its focus distance and blurs more when opened', () => {
    const camera = newCamera({ fStop: 2, focalLength: 50, focusDistance: 500 });
    expect(circleOfConfusion(camera, 500)).toBe(0);
    expect(circleOfConfusion(camera, 1000)).toBeCloseTo(12.5, 9);
    expect(circleOfConfusion({ ...camera, fStop: 8 }, 1000)).toBeCloseTo(12.5 / 4, 9);
  });
});
