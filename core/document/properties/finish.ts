import { choice, color, kelvin, length, mapped, number, share, toggle, angle, type Table } from './property';

const index = (standard: number) => number(standard, { min: 1, max: 4, step: 0.01 });
const spread = () => number(0, { min: -0.99, max: 0.99, step: 0.01 });

/** Parameter names follow the OpenPBR Surface specification 1.1, in camel case. */
export const FINISH = {
  baseWeight: share(1),
  baseColor: mapped(color([0.5, 0.5, 0.5])),
  baseMetalness: mapped(share(0)),
  baseDiffuseRoughness: mapped(share(0)),
  specularWeight: mapped(share(1)),
  specularColor: mapped(color([1, 1, 1])),
  specularRoughness: mapped(share(0.35)),
  specularRoughnessAnisotropy: mapped(share(0)),
  /** By which the grain is turned from the tangent; OpenPBR gives the tangent itself. */
  specularRotation: mapped(angle(0)),
  specularIor: index(1.5),
  transmissionWeight: mapped(share(0)),
  transmissionColor: mapped(color([1, 1, 1])),
  /** After which white light has taken the transmission colour; 0 tints at the surface. */
  transmissionDepth: length(0, { min: 0, max: 1e6, step: 0.5 }),
  transmissionScatter: color([0, 0, 0]),
  transmissionScatterAnisotropy: spread(),
  transmissionDispersionScale: share(0),
  transmissionDispersionAbbeNumber: number(20, { min: 5, max: 200 }),
  subsurfaceWeight: mapped(share(0)),
  subsurfaceColor: mapped(color([0.8, 0.8, 0.8])),
  /** That light goes below the surface between two turns, times the scale of each channel. */
  subsurfaceRadius: length(1, { min: 0.001, max: 1e5, step: 0.1 }),
  subsurfaceRadiusScale: color([1, 0.5, 0.25]),
  subsurfaceScatterAnisotropy: spread(),
  /** A sheet without inside: light goes straight on instead of being bent. */
  thinWalled: toggle(false),
  coatWeight: mapped(share(0)),
  coatColor: mapped(color([1, 1, 1])),
  coatRoughness: mapped(share(0.03)),
  coatRoughnessAnisotropy: mapped(share(0)),
  coatIor: index(1.5),
  coatDarkening: share(1),
  fuzzWeight: mapped(share(0)),
  fuzzColor: mapped(color([1, 1, 1])),
  fuzzRoughness: mapped(share(0.5)),
  thinFilmWeight: mapped(share(0)),
  thinFilmThickness: mapped(number(0.5, { unit: 'µm', min: 0, max: 20, step: 0.01 })),
  thinFilmIor: index(1.4),
  /** 0 is not there at all; between, light passes by chance. */
  geometryOpacity: mapped(share(1)),
  /** What one part that wears the finish sends out, in its unit. */
  emissionPower: number(0, { min: 0 }),
  emissionUnit: choice(['lumen', 'watt', 'nit'], 'lumen'),
  emissionKelvin: kelvin(4000),
  emissionColor: mapped(color([1, 1, 1])),
  emissionTwoSided: toggle(false),
  emissionVisibleToCamera: toggle(true),
} satisfies Table;

/** How a picture drives one parameter: the parameter is multiplied by it. */
export const MAP = {
  /** Colours are coded for a display; roughness, normals and the like are plain numbers. */
  coding: choice(['srgb', 'linear'], 'linear'),
  /** Which part of the picture drives a single number. */
  channel: choice(['red', 'green', 'blue', 'alpha'], 'red'),
  /** 0 leaves the parameter as it is, 1 multiplies it by the picture; of a normal map, how steep it is. */
  strength: number(1, { min: 0, max: 10, step: 0.05 }),
  /** How often the picture comes in one unit of the surface's coordinates; negative values mirror it. */
  repeatU: number(1, { unit: '×', step: 0.1 }),
  repeatV: number(1, { unit: '×', step: 0.1 }),
  /** Counter-clockwise, about the coordinates' origin. */
  turn: angle(0),
  /** In pictures, after repeating and turning. */
  offsetU: number(0, { step: 0.01 }),
  offsetV: number(0, { step: 0.01 }),
} satisfies Table;
