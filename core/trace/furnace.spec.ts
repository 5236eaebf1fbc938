import { describe, expect, it } from 'vitest';
import type { Finish } from '../document';
import { renderScene, sphere } from './testing/renderState';

// Tried by breaking the kernel on purpose: leaving out what a metal's facets reflect more than once, the loss of single
// scattering in frosted glass, the mean that light from below a glossy base leaves by, what returns under a dark coat, and the
// albedo of matter below a surface each fail a line of this table.

const white: [number, number, number] = [1, 1, 1];
const matte: Partial<Finish> = { baseColor: white, specularWeight: 0 };
const metal: Partial<Finish> = { baseColor: white, baseMetalness: 1 };
const glass: Partial<Finish> = { transmissionWeight: 1 };
const wax: Partial<Finish> = { ...matte, subsurfaceWeight: 1, subsurfaceColor: white, subsurfaceRadiusScale: white };

/** Finishes that lose nothing; what was brushed or wears a film only nearly so, as the tables know neither. */
const lossless: [string, Partial<Finish>, number?][] = [
  ['matte white', matte],
  ['chalky white', { ...matte, baseDiffuseRoughness: 1 }],
  ['glossy white', { baseColor: white, specularRoughness: 0.1 }],
  ['satin white', { baseColor: white, specularRoughness: 0.5 }],
  ['half shiny white', { baseColor: white, specularWeight: 0.5, specularRoughness: 0.3 }],
  ['a polished perfect metal', { ...metal, specularRoughness: 0.1 }],
  ['a rough perfect metal', { ...metal, specularRoughness: 0.8 }],
  ['a brushed perfect metal', { ...metal, specularRoughness: 0.5, specularRoughnessAnisotropy: 0.8 }, 0.01],
  ['coated white', { ...matte, coatWeight: 1, coatRoughness: 0.1 }],
  ['roughly coated white', { ...matte, coatWeight: 1, coatRoughness: 0.5 }],
  ['white under white fuzz', { ...matte, fuzzWeight: 1, fuzzRoughness: 0.5 }],
  ['clear glass', { ...glass, specularRoughness: 0 }],
  ['frosted glass', { ...glass, specularRoughness: 0.4 }],
  ['very frosted glass', { ...glass, specularRoughness: 0.8 }],
  ['a thin clear wall', { ...glass, specularRoughness: 0, thinWalled: true }],
  ['a thin translucent wall', { ...wax, thinWalled: true }],
  ['glass with a thin film', { ...glass, specularRoughness: 0, thinFilmWeight: 1, thinFilmThickness: 0.4 }],
  ['white with a thin film', { ...matte, specularWeight: 1, specularRoughness: 0.05, thinFilmWeight: 1 }, 0.013],
  ['half there', { ...matte, geometryOpacity: 0.5 }],
  ['glass that scatters all it takes', { ...glass, specularRoughness: 0, transmissionColor: [0.3, 0.3, 0.3], transmissionDepth: 10, transmissionScatter: [1.204, 1.204, 1.204] }],
]; // prettier-ignore

describe('a white furnace', () => {
  const inFurnace = async (finish: Partial<Finish>, samples = 512) =>
    (
      await renderScene(
        {
          parts: [{ mesh: sphere(20), finish }],
          camera: { focalLength: 200 },
          set: (set) => (set.surroundings.color = white),
        },
        { samples, depth: 64 },
      )
    ).mean;

  it.each(lossless)('gets all back from %s', async (_, finish, slack = 0.005) => {
    for (const part of await inFurnace(finish)) expect(Math.abs(part - 1)).toBeLessThan(slack);
  });

  it.each<[string, Partial<Finish>]>([
    ['matte white', matte],
    ['glossy white', { baseColor: white, specularRoughness: 0.3 }],
    ['a polished perfect metal', { ...metal, specularRoughness: 0.1 }],
  ])('gets all back from %s under a thin clear wall that shadow rays pass', async (_, finish) => {
    const { mean } = await renderScene(
      {
        parts: [
          { mesh: sphere(20), finish },
          { mesh: sphere(21), finish: { ...glass, specularRoughness: 0, thinWalled: true } },
        ],
        camera: { focalLength: 200 },
        set: (set) => (set.surroundings.color = white),
      },
      { samples: 512, depth: 64 },
    );
    for (const part of mean) expect(Math.abs(part - 1)).toBeLessThan(0.005);
  });

  it('gets nearly all back from white wax, whose walk below the surface is cut off in the end', async () => {
    for (const part of await inFurnace({ ...wax, subsurfaceRadius: 1 }, 128)) {
      expect(part).toBeGreaterThan(0.93);
      expect(part).toBeLessThan(1.01);
    }
  });

  it('shows matter below the surface in the colour it was asked for', async () => {
    const color: [number, number, number] = [0.8, 0.4, 0.1];
    const mean = await inFurnace({ ...wax, subsurfaceColor: color, subsurfaceRadius: 0.3 });
    mean.forEach((part, k) => expect(Math.abs(part - color[k]!)).toBeLessThan(0.03));
  });

  const losing: [string, Partial<Finish>][] = [
    ['grey', { baseColor: [0.5, 0.5, 0.5], specularWeight: 0 }],
    ['grey under a coat', { baseColor: [0.5, 0.5, 0.5], specularWeight: 0, coatWeight: 1 }],
    ['a coloured coat', { ...matte, coatWeight: 1, coatColor: [0.9, 0.5, 0.3] }],
    ['gold', { ...metal, baseColor: [1, 0.78, 0.34], specularRoughness: 0.3 }],
    ['metal with a tint at grazing angles', { ...metal, specularColor: [0.5, 0.7, 1] }],
    ['metal with a thin film', { ...metal, baseColor: [0.9, 0.9, 0.9], thinFilmWeight: 1 }],
    ['a mix of everything', { baseColor: [0.8, 0.6, 0.9], baseMetalness: 0.4, transmissionWeight: 0.4, coatWeight: 0.5, fuzzWeight: 0.3, subsurfaceWeight: 0.3, thinFilmWeight: 0.5, specularRoughnessAnisotropy: 0.5 }],
    ['coloured glass', { ...glass, transmissionColor: [0.4, 0.9, 0.5], transmissionDepth: 10 }],
    ['dispersing glass', { ...glass, specularRoughness: 0, transmissionDispersionScale: 1 }],
  ]; // prettier-ignore
  it.each(losing)('gets no more than it gives from %s', async (_, finish) => {
    const mean = await inFurnace(finish);
    for (const part of mean) {
      expect(part).toBeGreaterThan(0.05);
      expect(part).toBeLessThan(1.005);
    }
  });

  it('makes a coat darken what is dark and leave what is white', async () => {
    const [bare] = await inFurnace({ baseColor: [0.3, 0.3, 0.3], specularWeight: 0 });
    const coat = {
      baseColor: [0.3, 0.3, 0.3] as [number, number, number],
      specularWeight: 0,
      coatWeight: 1,
      coatRoughness: 0,
    };
    const [light] = await inFurnace({ ...coat, coatDarkening: 0 });
    const [dark] = await inFurnace(coat);
    expect(dark!).toBeLessThan(light! * 0.9);
    expect(light!).toBeGreaterThan(bare!);
  });
});
