import {
  angle,
  choice,
  color,
  kelvin,
  length,
  mapped,
  number,
  place,
  share,
  toggle,
  turn as turnOf,
  vector,
  type Table,
} from './property';

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

/** What a layer of a map does with what lies below it, the parameter itself at the bottom. */
export const BLENDS = ['multiply', 'over', 'add', 'screen', 'difference', 'mask'] as const;
/** How what a map reads is laid onto the surface. */
export const PROJECTIONS = [
  'coordinates',
  'through',
  'planar',
  'box',
  'cylindrical',
  'spherical',
  'camera',
  'wrapped',
] as const;

/** One layer of what drives a parameter: where it is read, what is made of its values, and how they come over those below. */
export const MAP = {
  /** Left out. */
  muted: toggle(false),
  blend: choice(BLENDS, 'multiply'),
  /** 0 leaves what lies below as it is, 1 blends wholly; of a normal map, how steep it is. */
  strength: number(1, { min: 0, max: 10, step: 0.05 }),
  /** Works only where its own values are bright. */
  selfMasked: toggle(false),
  /** Colours are coded for a display; roughness, normals and the like are plain numbers. */
  coding: choice(['srgb', 'linear'], 'linear'),
  /** Which part of the picture drives a single number. */
  channel: choice(['red', 'green', 'blue', 'alpha', 'brightness'], 'red'),
  projection: choice(PROJECTIONS, 'coordinates'),
  /** Whose space it is laid on in: that of each part, or the world, in which parts move through it. */
  within: choice(['part', 'world'], 'part'),
  /** Seen on all that it is laid on, or on the side that faces it alone. */
  sides: choice(['both', 'front'], 'both'),
  /** What happens beyond its edges. */
  tiling: choice(['repeat', 'mirror', 'once', 'stretch'], 'repeat'),
  /** Middle, turn and size of what is laid on, in the space it is laid on in. */
  position: place([0, 0, 0]),
  orientation: turnOf([0, 0, 0]),
  size: vector([100, 100, 100], { unit: 'mm', min: 0.001, max: 1e6, step: 1 }),
  /** How softly the sides of a box pass into each other. */
  softness: share(0.2),
  /** How often it comes in one unit of the surface's coordinates, or in its own size; negative values mirror it. */
  repeatU: number(1, { unit: '×', step: 0.1 }),
  repeatV: number(1, { unit: '×', step: 0.1 }),
  /** Counter-clockwise, about the coordinates' origin. */
  turn: angle(0),
  /** In pictures, after repeating and turning. */
  offsetU: number(0, { step: 0.01 }),
  offsetV: number(0, { step: 0.01 }),
  /** What is read as dark and as bright; what lies beyond is cut off. */
  dark: number(0, { min: -10, max: 10, step: 0.01 }),
  bright: number(1, { min: -10, max: 10, step: 0.01 }),
  /** Below 1 lifts what is between, above 1 lowers it. */
  curve: number(1, { min: 0.05, max: 20, step: 0.05 }),
  inverted: toggle(false),
  /** What dark and bright become: of colours their brightness, of the relief millimetres, of a film micrometres, of an angle turns. */
  low: number(0, { min: -1000, max: 1000, step: 0.01 }),
  high: number(1, { min: -1000, max: 1000, step: 0.01 }),
} satisfies Table;
