import { describe, expect, it } from 'vitest';
import { newCamera, newFinish, newLight } from '../document';
import {
  blackBody,
  blackBodyXyz,
  circleOfConfusion,
  lampKind,
  decodeSrgb,
  dispersion,
  encodeSrgb,
  hexFromLinear,
  insideOf,
  lampRadiance,
  lightColor,
  linearFromHex,
  luminance,
  OBSERVER,
  partRadiance,
  planck,
  skyModel,
  sunLight,
  visibleEfficacy,
} from './index';

const coneFactor = lampKind({ kind: 'spot' }).spread!;

describe('light', () => {
  it('a square metre of 683 π lumens has 683 nits', () => {
    const panel = newLight('panel', { width: 1000, height: 1000, power: 683 * Math.PI });
    expect(lampRadiance(panel)).toBeCloseTo(1, 9);
    expect(lampRadiance({ ...panel, unit: 'nit', power: 683 })).toBeCloseTo(1, 9);
    expect(lampRadiance({ ...panel, unit: 'candela', power: 683 })).toBeCloseTo(1, 9);
  });

  it('a bulb keeps its flux when it grows, a tube when it gets longer', () => {
    const bulb = newLight('bulb', { radius: 10, power: 100 });
    expect(lampRadiance(bulb) / lampRadiance({ ...bulb, radius: 20 })).toBeCloseTo(4, 9);
    const tube = newLight('tube', { width: 100 });
    expect(lampRadiance(tube) / lampRadiance({ ...tube, width: 300 })).toBeCloseTo(3, 9);
  });

  it('a spot without fade has the flux of its cone: π sin² of half its angle', () => {
    for (const coneAngle of [0.2, 1, 2.5]) {
      expect(
        coneFactor({ ...newLight('spot'), coneAngle, penumbra: 0 }) / (Math.PI * Math.sin(coneAngle / 2) ** 2),
      ).toBeCloseTo(1, 3);
    }
    expect(coneFactor({ ...newLight('spot'), coneAngle: 1, penumbra: 0.8 })).toBeLessThan(
      coneFactor({ ...newLight('spot'), coneAngle: 1, penumbra: 0 }),
    );
  });

  it('a watt of daylight is worth about 200 lumens, of candle light less', () => {
    expect(visibleEfficacy(6500)).toBeGreaterThan(180);
    expect(visibleEfficacy(6500)).toBeLessThan(215);
    expect(visibleEfficacy(1900)).toBeLessThan(visibleEfficacy(5500));
  });

  it('a sun gives its lux whatever its size', () => {
    for (const angularSize of [0.0093, 0.1]) {
      const sun = newLight('sun', { angularSize, power: 683 });
      expect(lampRadiance(sun) * Math.PI * Math.sin(angularSize / 2) ** 2).toBeCloseTo(1, 9);
    }
  });

  it('a part with two luminous sides is half as bright for its lumens', () => {
    const finish = newFinish({ emissionPower: 100 });
    expect(partRadiance({ ...finish, emissionTwoSided: true }, 1, 500) / partRadiance(finish, 1, 500)).toBeCloseTo(
      0.5,
      9,
    );
    expect(partRadiance({ ...finish, emissionUnit: 'nit', emissionPower: 683 }, 2, 500)).toBeCloseTo(2, 9);
  });

  it('of a black body has luminance 1, is red when cool, white at 6500 K and blue when hot', () => {
    for (const kelvin of [1000, 2700, 6500, 20000]) expect(luminance(blackBody(kelvin))).toBeCloseTo(1, 9);
    const [warmR, , warmB] = blackBody(2700);
    expect(warmR / warmB).toBeGreaterThan(4);
    for (const part of blackBody(6504)) expect(part).toBeCloseTo(1, 0.9);
    expect(blackBody(15000)[2]).toBeGreaterThan(blackBody(15000)[0]);
  });

  it('of a black body has the colour that the CIE 1931 observer sees, within 0.0005 in u′v′', () => {
    // x, y of the Planckian locus (Wyszecki and Stiles, Color Science, 1982; CIE 15:2004 for illuminant A).
    const published: [number, number, number][] = [
      [1000, 0.6528, 0.3445], [2000, 0.5267, 0.4133], [2855.5, 0.44757, 0.40745], [4000, 0.3805, 0.3768],
      [6500, 0.3135, 0.3237], [10000, 0.2807, 0.2884], [20000, 0.2565, 0.2577],
    ]; // prettier-ignore
    const uv = (x: number, y: number) => [4 * x, 9 * y].map((v) => v / (-2 * x + 12 * y + 3)) as [number, number];
    for (const [kelvin, x, y] of published) {
      const [X, Y, Z] = blackBodyXyz(kelvin);
      const [u, v] = uv(X / (X + Y + Z), Y / (X + Y + Z));
      const [pu, pv] = uv(x, y);
      expect(Math.hypot(u - pu, v - pv)).toBeLessThan(0.0005);
    }
    // What the tracer is given is that colour wherever Rec. 709 holds it.
    for (const kelvin of [2000, 2855.5, 4000, 6500, 10000, 20000]) {
      const [r, g, b] = blackBody(kelvin);
      const X = 0.4124564 * r + 0.3575761 * g + 0.1804375 * b;
      const Y = 0.2126729 * r + 0.7151522 * g + 0.072175 * b;
      const Z = 0.0193339 * r + 0.119192 * g + 0.9503041 * b;
      const sum = X + Y + Z;
      const [, x, y] = published.find(([each]) => each === kelvin)!;
      const [u, v] = uv(X / sum, Y / sum);
      const [pu, pv] = uv(x, y);
      expect(Math.hypot(u - pu, v - pv)).toBeLessThan(0.0005);
    }
  });

  it('has the lumens of a watt that the observer gives: sums of the table, and integrals over a finer one', () => {
    // Sums at 5 nm as published with the table.
    const sums = [0, 1, 2].map((c) => OBSERVER.reduce((sum, response) => sum + response[c]!, 0));
    [21.371524, 21.371327, 21.37154].forEach((sum, c) => expect(sums[c]).toBeCloseTo(sum, 6));
    for (const kelvin of [1000, 2700, 6500, 20000]) {
      let [seen, sent] = [0, 0];
      for (let nm = 380; nm <= 780; nm += 0.5) {
        const at = Math.min(79, Math.floor((nm - 380) / 5));
        const t = (nm - 380) / 5 - at;
        // Cubic through the four values about it (Catmull and Rom, 1974).
        const [p, q, r, s] = [-1, 0, 1, 2].map((k) => OBSERVER[Math.min(80, Math.max(0, at + k))]![1]) as number[] as [
          number,
          number,
          number,
          number,
        ];
        const response = q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)));
        const edge = nm === 380 || nm === 780 ? 0.5 : 1;
        seen += edge * planck(nm, kelvin) * response;
        sent += edge * planck(nm, kelvin);
      }
      expect(visibleEfficacy(kelvin) / ((683 * seen) / sent)).toBeCloseTo(1, 2.5);
    }
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
    insideOf(finish).extinction.forEach((part, k) =>
      expect(Math.exp(-part * 20)).toBeCloseTo(finish.transmissionColor[k]!, 9),
    );
  });

  it('never scatters more than it takes from a ray', () => {
    const { extinction, scattering } = insideOf(
      newFinish({ transmissionColor: [0.9, 0.9, 0.2], transmissionDepth: 5, transmissionScatter: [2, 1, 0.5] }),
    );
    scattering.forEach((part, k) => expect(part).toBeLessThanOrEqual(extinction[k]! + 1e-12));
  });

  it("of Abbe's number 20 has the lines F and C apart by a twentieth of what the index exceeds one", () => {
    const b = dispersion(
      newFinish({ specularIor: 1.6, transmissionDispersionScale: 1, transmissionDispersionAbbeNumber: 20 }),
    );
    expect(b * (1 / 486.1 ** 2 - 1 / 656.3 ** 2)).toBeCloseTo(0.6 / 20, 9);
    expect(dispersion(newFinish())).toBe(0);
  });
});

describe('the sky', () => {
  it('is brightest about the sun, bluer away from it, and its sun dims and reddens towards the horizon', () => {
    const radiance = skyModel({ elevation: 0.8, turbidity: 3 });
    const nearSun = radiance([0, Math.sin(0.8), Math.cos(0.8)]);
    const away = radiance([0, Math.sin(0.9), -Math.cos(0.9)]);
    expect(luminance(nearSun)).toBeGreaterThan(3 * luminance(away));
    expect(away[2] / away[0]).toBeGreaterThan(1.3);
    // A clear zenith has some thousand nits.
    const zenith = 683 * luminance(radiance([0, 1, 0]));
    expect(zenith).toBeGreaterThan(1500);
    expect(zenith).toBeLessThan(15000);
    const [high, low] = [sunLight({ elevation: 1.3, turbidity: 2.5 }), sunLight({ elevation: 0.1, turbidity: 2.5 })];
    expect(high.lux).toBeGreaterThan(85_000);
    expect(low.lux).toBeLessThan(high.lux / 2);
    expect(low.kelvin).toBeLessThan(high.kelvin);
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
