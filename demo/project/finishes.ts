import { newFinish, type Finish } from '@zippy/core/document';
import { linearFromHex } from '@zippy/core/optics';

const color = (hex: string): [number, number, number] => linearFromHex(hex)!;

/** What the parts of the radio are made of, by the first name that fits. */
export const RADIO_FINISHES: [RegExp, Finish][] = [
  [
    /^Body$/,
    newFinish({
      id: 'ivory',
      name: 'Ivory lacquer',
      baseColor: color('#e9dfc9'),
      specularRoughness: 0.42,
      coatWeight: 0.7,
      coatRoughness: 0.12,
    }),
  ],
  [
    /^(Front panel|Back cover|Battery door)$/,
    newFinish({ id: 'pine', name: 'Pine satin', baseColor: color('#1d4044'), specularRoughness: 0.38 }),
  ],
  [
    /^(Grille|Grille frame|Dial bezel|.* cap|Screw \d+|Antenna fork|Hinge .*)$/,
    newFinish({
      id: 'aluminium',
      name: 'Satin aluminium',
      baseColor: [0.87, 0.88, 0.89],
      baseMetalness: 1,
      specularRoughness: 0.3,
    }),
  ],
  [
    /^Antenna section \d$/,
    newFinish({
      id: 'chrome',
      name: 'Chrome',
      baseColor: [0.78, 0.79, 0.8],
      baseMetalness: 1,
      specularRoughness: 0.09,
    }),
  ],
  [
    /^(Speaker cloth|Speaker cone)$/,
    newFinish({
      id: 'cloth',
      name: 'Black cloth',
      baseColor: [0.012, 0.012, 0.013],
      specularRoughness: 0.9,
      specularWeight: 0.3,
    }),
  ],
  [
    /^Dial glass$/,
    newFinish({ id: 'glass', name: 'Thin clear glass', specularRoughness: 0, transmissionWeight: 1, thinWalled: true }),
  ],
  [
    /^Dial scale$/,
    newFinish({
      id: 'scale',
      name: 'Lit scale',
      baseColor: color('#f1b45c'),
      specularRoughness: 0.6,
      specularWeight: 0.4,
      emissionPower: 2.4,
      emissionKelvin: 2600,
      emissionColor: [1, 0.82, 0.5],
    }),
  ],
  [
    /^Scale marks$/,
    newFinish({
      id: 'marks',
      name: 'Printed black',
      baseColor: [0.01, 0.008, 0.006],
      specularWeight: 0.3,
      specularRoughness: 0.7,
    }),
  ],
  [
    /^(Needle|Door latch|.* marker)$/,
    newFinish({ id: 'coral', name: 'Coral gloss', baseColor: color('#f0552f'), specularRoughness: 0.2 }),
  ],
  [/^Lens [1-6]$/, lens('green', 'Green lens', [0.12, 0.85, 0.35])],
  [/^Lens [7-9]$/, lens('amber', 'Amber lens', [1, 0.62, 0.12])],
  [/^Lens 10$/, lens('red', 'Red lens', [1, 0.12, 0.08])],
  [/^Emitter [1-6]$/, emitter('emit-green', 'Green emitter', [0.1, 1, 0.35])],
  [/^Emitter [7-9]$/, emitter('emit-amber', 'Amber emitter', [1, 0.55, 0.06])],
  [/^Emitter 10$/, emitter('emit-red', 'Red emitter', [1, 0.08, 0.05])],
  [
    /^Foot \d$/,
    newFinish({
      id: 'rubber',
      name: 'Rubber',
      baseColor: [0.02, 0.02, 0.02],
      specularRoughness: 0.8,
      specularWeight: 0.5,
    }),
  ],
  [/.*/, newFinish({ id: 'graphite', name: 'Graphite plastic', baseColor: color('#2b2d31'), specularRoughness: 0.3 })],
];

function lens(id: string, name: string, tint: [number, number, number]): Finish {
  return newFinish({
    id: `lens-${id}`,
    name,
    specularRoughness: 0,
    transmissionWeight: 1,
    transmissionColor: tint,
    thinWalled: true,
  });
}

function emitter(id: string, name: string, tint: [number, number, number]): Finish {
  return newFinish({
    id,
    name,
    baseColor: [0.5, 0.5, 0.5],
    emissionPower: 0.22,
    emissionKelvin: 4000,
    emissionColor: tint,
  });
}
