import type { Finish } from '../document';
import type { ReadySet, SetLamp } from './kind';

const grey = (v: number): [number, number, number] => [v, v, v];
const plain = (v: number) => ({ kind: 'color', color: grey(v), brightness: 1 }) as const;
const behind = (color: [number, number, number]) => ({ kind: 'color', color }) as const;
const seenAround = { kind: 'surroundings' } as const;
const glowing = (nits: number, color: [number, number, number] = [1, 1, 1]): Partial<Finish> => ({
  baseColor: grey(0.8),
  emissionPower: nits,
  emissionUnit: 'nit',
  emissionKelvin: 6500,
  emissionColor: color,
  emissionTwoSided: true,
});
const panel = (
  name: string,
  at: SetLamp['at'],
  size: SetLamp['size'],
  nits: number,
  over: SetLamp['over'] = {},
): SetLamp => ({ name, kind: 'panel', at, size, nits, over });

/** Studios to start from, in the order in which they are offered. */
export const READY_SETS: readonly ReadySet[] = [
  {
    name: 'Bright and even',
    words: 'white high key catalogue shop soft',
    floor: { kind: 'sweep', color: grey(0.8), roughness: 0.7 },
    surroundings: plain(0.42),
    lamps: [
      panel('Left panel', [-1.3, 0.9, 0.9], [1.2, 1.6], 2100),
      panel('Right panel', [1.3, 0.8, 0.9], [1.2, 1.6], 1500),
      panel('Top panel', [0, 1.7, 0], [1.6, 1.6], 900),
    ],
  },
  {
    name: 'Two edges in the dark',
    words: 'black low key rim outline silhouette drama',
    floor: { kind: 'sweep', color: grey(0.006), roughness: 0.5 },
    surroundings: plain(0.012),
    lamps: [
      panel('Left edge', [-1.1, 0.5, -0.7], [0.35, 1.8], 5200),
      panel('Right edge', [1.1, 0.5, -0.7], [0.35, 1.8], 5200),
      panel('Front fill', [-0.7, 0.9, 1.5], [0.8, 0.8], 1100),
    ],
    look: { contrast: 1.05 },
  },
  {
    name: 'One big window',
    words: 'daylight side soft shadow room natural',
    floor: { kind: 'sweep', color: [0.52, 0.49, 0.45], roughness: 0.65 },
    surroundings: { ...plain(0.09), color: [0.1, 0.09, 0.085] },
    lamps: [panel('Window', [-1.7, 0.6, 0.35], [1.9, 1.9], 2900, { kelvin: 5800 })],
  },
  {
    name: 'Sunset field',
    words: 'outdoor evening sun warm golden hour nature',
    floor: { kind: 'floor', color: [0.2, 0.17, 0.1], roughness: 0.9 },
    surroundings: { kind: 'sky', brightness: 0.1, turn: 0.9 },
    sky: { elevation: 0.12, turbidity: 4, sun: true },
    behind: seenAround,
  },
  {
    name: 'Noon terrace',
    words: 'outdoor sun blue sky hard shadow summer',
    floor: { kind: 'floor', color: [0.55, 0.52, 0.48], roughness: 0.8 },
    surroundings: { kind: 'sky', brightness: 0.022, turn: 1.3 },
    sky: { elevation: 0.85, turbidity: 2.6, sun: true },
    behind: seenAround,
  },
  {
    name: 'Pastel sweep',
    words: 'pink peach cosmetic soft colour sweet',
    floor: { kind: 'sweep', color: [0.78, 0.47, 0.42], roughness: 0.7 },
    surroundings: { ...plain(0.3), color: [0.34, 0.28, 0.27] },
    lamps: [
      panel('Soft key', [-1, 1.1, 1], [1.3, 1.3], 2300),
      panel('Rose edge', [1.2, 0.5, -0.8], [0.5, 1.5], 1900, { tint: [1, 0.66, 0.62] }),
    ],
  },
  {
    name: 'Mint sweep',
    words: 'green teal fresh pastel soft colour',
    floor: { kind: 'sweep', color: [0.34, 0.62, 0.53], roughness: 0.7 },
    surroundings: { ...plain(0.3), color: [0.26, 0.32, 0.3] },
    lamps: [panel('Soft key', [1, 1.1, 1], [1.3, 1.3], 2300), panel('Edge', [-1.2, 0.6, -0.8], [0.5, 1.5], 2400)],
  },
  {
    name: 'Black mirror',
    words: 'glossy reflection dark acrylic luxury watch',
    floor: { kind: 'floor', color: grey(0.008), roughness: 0.03 },
    surroundings: { kind: 'gradient', brightness: 1 },
    gradient: { top: grey(0.01), horizon: grey(0.03), bottom: grey(0) },
    behind: behind(grey(0.006)),
    lamps: [
      panel('Overhead', [0, 1.5, -0.2], [1.5, 0.8], 3000),
      panel('Left strip', [-1.2, 0.6, 0.3], [0.3, 1.6], 5200),
      panel('Right strip', [1.3, 0.6, -0.4], [0.3, 1.6], 4200),
    ],
  },
  {
    name: 'Lit from below',
    words: 'glass bottle drink glow translucent light table',
    floor: { kind: 'floor', color: grey(0.02), roughness: 0.35 },
    surroundings: plain(0.05),
    behind: behind(grey(0.012)),
    props: [
      {
        name: 'Light table',
        piece: { kind: 'disc', radius: 0.95, hole: 0 },
        at: [0, 0.004, 0],
        finish: glowing(520),
      },
    ],
    lamps: [panel('Top fill', [-0.6, 1.5, 0.8], [1, 1], 1300)],
  },
  {
    name: 'Tunnel of light',
    words: 'corridor frames neon speed car future glow',
    floor: { kind: 'floor', color: grey(0.02), roughness: 0.12 },
    surroundings: plain(0.012),
    behind: behind(grey(0.004)),
    props: [
      {
        name: 'Frame of light',
        piece: { kind: 'frame', width: 3, height: 2.2, bar: 0.07, depth: 0.07, section: 'round' },
        at: [0, 0, -0.7],
        finish: glowing(600),
        row: { count: 4, step: [0, 0, -1.2] },
      },
    ],
    lamps: [panel('Front key', [-0.8, 1, 1.6], [0.9, 0.9], 2800), panel('Edges', [0, 1.9, -1], [2, 0.5], 4200)],
  },
  {
    name: 'Glowing gates',
    words: 'frames arches portal stage coloured neon',
    floor: { kind: 'floor', color: grey(0.03), roughness: 0.2 },
    surroundings: { ...plain(0.02), color: [0.02, 0.02, 0.03] },
    behind: behind([0.006, 0.006, 0.012]),
    props: [
      {
        name: 'Warm gate',
        piece: { kind: 'frame', width: 2.1, height: 1.9, bar: 0.05, depth: 0.05, section: 'round' },
        at: [0, 0, -0.9],
        finish: glowing(640, [1, 0.45, 0.25]),
      },
      {
        name: 'Cool gate',
        piece: { kind: 'frame', width: 2.7, height: 2.4, bar: 0.05, depth: 0.05, section: 'round' },
        at: [0, 0, -1.6],
        finish: glowing(640, [0.3, 0.6, 1]),
      },
    ],
    lamps: [
      panel('Front key', [-0.8, 1.1, 1.5], [0.9, 0.9], 2600),
      panel('Warm edge', [-1.1, 0.7, -0.6], [0.3, 1.5], 4200, { tint: [1, 0.5, 0.3] }),
      panel('Cool edge', [1.1, 0.7, -0.6], [0.3, 1.5], 4200, { tint: [0.4, 0.65, 1] }),
    ],
  },
  {
    name: 'Turntable',
    words: 'plinth podium pedestal round stage display spin',
    floor: { kind: 'floor', color: grey(0.3), roughness: 0.5 },
    surroundings: plain(0.16),
    behind: behind(grey(0.16)),
    props: [
      {
        name: 'Turntable',
        piece: { kind: 'disc', radius: 0.85, hole: 0 },
        at: [0, 0.003, 0],
        finish: { baseColor: grey(0.72), specularRoughness: 0.25 },
      },
    ],
    lamps: [panel('Key', [-1, 1, 1], [1, 1], 3300), panel('Edge', [1.1, 0.8, -1], [0.5, 1.4], 3600)],
  },
  {
    name: 'Single spot',
    words: 'stage theatre reveal cone drama museum',
    floor: { kind: 'sweep', color: grey(0.09), roughness: 0.6 },
    surroundings: plain(0.012),
    lamps: [
      {
        name: 'Spot from above',
        kind: 'spot',
        at: [-0.35, 2.6, 0.7],
        size: [0.09, 0.09],
        nits: 560_000,
        over: { coneAngle: 0.62, penumbra: 0.5, kelvin: 4600 },
      },
      panel('Front fill', [0.7, 0.7, 1.8], [0.9, 0.9], 420),
    ],
  },
  {
    name: 'Ring for capture',
    words: 'scan photogrammetry all round shadowless flat even',
    floor: { kind: 'floor', color: grey(0.5), roughness: 0.8 },
    surroundings: plain(0.55),
    behind: behind(grey(0.5)),
    lamps: Array.from({ length: 6 }, (_, k): SetLamp => {
      const angle = (k / 6) * 2 * Math.PI;
      return panel(`Ring ${k + 1}`, [1.6 * Math.sin(angle), 0.6, 1.6 * Math.cos(angle)], [0.8, 0.8], 900);
    }),
  },
  {
    name: 'Key colour',
    words: 'green screen chroma keying compositing cut out',
    floor: { kind: 'none' },
    surroundings: plain(0.5),
    behind: behind([0.02, 0.42, 0.05]),
    lamps: [panel('Key', [-1, 0.9, 1.1], [1.1, 1.1], 2300), panel('Edge', [1.1, 0.7, -1], [0.5, 1.4], 2600)],
  },
  {
    name: 'Cut out',
    words: 'alpha transparent packshot catalogue compositing',
    floor: { kind: 'none' },
    surroundings: plain(0.55),
    behind: { kind: 'transparent' },
    lamps: [
      panel('Key', [-1, 0.9, 1.1], [1.2, 1.2], 2100),
      panel('Fill', [1.3, 0.4, 0.9], [1, 1], 800),
      panel('Edge', [1, 0.7, -1.1], [0.5, 1.4], 2400),
    ],
  },
  {
    name: 'Cold steel',
    words: 'blue tool industrial machine technical hard',
    floor: { kind: 'sweep', color: [0.11, 0.13, 0.16], roughness: 0.4 },
    surroundings: { kind: 'gradient', brightness: 1 },
    gradient: { top: [0.1, 0.12, 0.15], horizon: [0.03, 0.04, 0.05], bottom: grey(0.01) },
    lamps: [
      panel('Cold strip', [-1.1, 0.9, 0.7], [0.4, 1.8], 5200, { kelvin: 8000 }),
      panel('Cold edge', [1.1, 0.6, -0.9], [0.4, 1.6], 5600, { kelvin: 9000 }),
      panel('Overhead', [0, 1.6, 0.2], [1.6, 0.5], 1900, { kelvin: 7000 }),
    ],
  },
  {
    name: 'Warm evening',
    words: 'living room lamp cosy orange interior candle',
    floor: { kind: 'sweep', color: [0.32, 0.22, 0.15], roughness: 0.55 },
    surroundings: { ...plain(0.06), color: [0.05, 0.055, 0.075] },
    lamps: [
      panel('Warm lamp', [1, 0.9, 0.9], [0.7, 0.7], 5600, { kelvin: 2900 }),
      panel('Blue hour', [-1.5, 0.7, -0.5], [1.2, 1.5], 900, { kelvin: 9500 }),
    ],
  },
];
