import type { Finish } from '@zippy/core/document';
import { linearFromHex } from '@zippy/core/optics';

const color = (hex: string): [number, number, number] => linearFromHex(hex)!;
const grey = (v: number): [number, number, number] => [v, v, v];

/** One finish of each family the tracer knows, by the name under its picture. */
export const SWATCHES: [string, Partial<Finish>][] = [
  ['Solid paint', { baseColor: color('#b3261e'), specularRoughness: 0.5, coatWeight: 1, coatRoughness: 0.02 }],
  ['Metallic paint', { baseColor: color('#4d6f8f'), baseMetalness: 0.85, specularRoughness: 0.42, coatWeight: 1, coatRoughness: 0.01 }],
  ['Pearl', { baseColor: color('#ece6dd'), specularRoughness: 0.3, thinFilmWeight: 1, thinFilmThickness: 0.42, thinFilmIor: 1.7, coatWeight: 1 }],
  ['Gloss plastic', { baseColor: color('#e8e4da'), specularRoughness: 0.08 }],
  ['Satin plastic', { baseColor: color('#2d4a4e'), specularRoughness: 0.4 }],
  ['Cloudy plastic', { transmissionWeight: 1, specularRoughness: 0.25, transmissionColor: color('#e9c7a0'), transmissionDepth: 12, transmissionScatter: grey(1.5) }],
  ['Polished steel', { baseColor: grey(0.6), baseMetalness: 1, specularRoughness: 0.06 }],
  ['Brushed aluminium', { baseColor: [0.9, 0.91, 0.92], baseMetalness: 1, specularRoughness: 0.34, specularRoughnessAnisotropy: 0.85 }],
  ['Anodised', { baseColor: color('#c4472c'), baseMetalness: 1, specularRoughness: 0.36 }],
  ['Cast iron', { baseColor: grey(0.16), baseMetalness: 0.8, specularRoughness: 0.72 }],
  ['Chrome', { baseColor: [0.79, 0.8, 0.81], baseMetalness: 1, specularRoughness: 0.02 }],
  ['Gold', { baseColor: [1, 0.76, 0.33], baseMetalness: 1, specularRoughness: 0.2, specularColor: [1, 0.95, 0.85] }],
  ['Copper', { baseColor: [0.95, 0.62, 0.52], baseMetalness: 1, specularRoughness: 0.28 }],
  ['Clear glass', { transmissionWeight: 1, specularRoughness: 0 }],
  ['Tinted glass', { transmissionWeight: 1, specularRoughness: 0, transmissionColor: color('#2f8f6b'), transmissionDepth: 60 }],
  ['Frosted glass', { transmissionWeight: 1, specularRoughness: 0.45 }],
  ['Crystal', { transmissionWeight: 1, specularRoughness: 0, specularIor: 1.75, transmissionDispersionScale: 1, transmissionDispersionAbbeNumber: 18 }],
  ['Soap film', { transmissionWeight: 1, specularRoughness: 0, thinWalled: true, thinFilmWeight: 1, thinFilmThickness: 0.38, thinFilmIor: 1.33 }],
  ['Rubber', { baseColor: grey(0.03), specularRoughness: 0.75, specularWeight: 0.6, baseDiffuseRoughness: 0.6 }],
  ['Leather', { baseColor: color('#6a3f26'), specularRoughness: 0.55, fuzzWeight: 0.15, fuzzRoughness: 0.6 }],
  ['Velvet', { baseColor: color('#3a1440'), specularWeight: 0, fuzzWeight: 1, fuzzColor: color('#d8a0e8'), fuzzRoughness: 0.4 }],
  ['Lacquered wood', { baseColor: color('#8a5a34'), specularRoughness: 0.6, coatWeight: 0.8, coatRoughness: 0.15, coatColor: color('#ffe3c0') }],
  ['Ceramic', { baseColor: color('#dfe7ea'), specularRoughness: 0.12, specularIor: 1.65, subsurfaceWeight: 0.3, subsurfaceColor: color('#e8eef0'), subsurfaceRadius: 1 }],
  ['Wax', { subsurfaceWeight: 1, subsurfaceColor: color('#f0d9b0'), subsurfaceRadius: 5, specularRoughness: 0.45 }],
  ['Marble', { subsurfaceWeight: 0.7, subsurfaceColor: color('#e6e3dc'), subsurfaceRadius: 2.5, baseColor: color('#d9d4c9'), specularRoughness: 0.15 }],
  ['Chalk paper', { baseColor: grey(0.85), specularWeight: 0, baseDiffuseRoughness: 1 }],
  ['Tea', { transmissionWeight: 1, specularRoughness: 0, specularIor: 1.33, transmissionColor: color('#c2571a'), transmissionDepth: 50 }],
  ['Lamp lens', { transmissionWeight: 1, specularRoughness: 0.12, transmissionColor: color('#ff3020'), transmissionDepth: 22 }],
  ['Light emitter', { baseColor: grey(0.3), emissionPower: 2.5, emissionKelvin: 3000 }],
  ['Half there', { baseColor: color('#0c7a61'), specularRoughness: 0.3, geometryOpacity: 0.5 }],
]; // prettier-ignore
