import { angle, choice, color, length, moving, number, share, still, toggle, unseen, type Table } from './property';

const times = (max: number) => number(1, { unit: '×', min: 0, max, step: 0.02 });
const brightness = () => number(1, { unit: '×', min: 0, max: 1000, step: 0.01 });

export const FLOOR = {
  kind: moving(choice(['none', 'floor', 'sweep'], 'sweep')),
  color: color([0.6, 0.6, 0.6]),
  roughness: share(0.6),
  /** Edge of the floor, and height of a sweep's wall. */
  size: length(3000, { min: 10, max: 1e6, step: 10 }),
  /** Behind the origin, where the sweep begins to curve up. */
  depth: length(900, { min: 0, max: 1e6, step: 10 }),
  /** About the vertical. */
  turn: angle(0),
  /** It shows what is seen behind, and on it the shadows and the light of what stands there. */
  catches: toggle(false),
} satisfies Table;

export const SURROUNDINGS = {
  kind: moving(choice(['color', 'gradient', 'picture', 'sky'], 'color')),
  /** The picture has its left and right changed about. */
  mirrored: toggle(false),
  color: color([0.35, 0.36, 0.38]),
  turn: angle(0),
  /** By which what is overhead leans to the front, before it is turned. */
  tilt: angle(0),
  brightness: brightness(),
  tint: color([1, 1, 1]),
  /** Powers of luminance about its mean: 1 leaves it. */
  contrast: times(4),
  saturation: times(4),
  /** Standard deviation of the directions that are blended. */
  blur: angle(0, { min: 0, max: Math.PI / 2, step: 0.5 }),
} satisfies Table;

/** Colours straight up, at the horizon and straight down. */
export const GRADIENT = {
  top: color([0.8, 0.82, 0.85]),
  horizon: color([0.35, 0.36, 0.38]),
  bottom: color([0.08, 0.08, 0.08]),
} satisfies Table;

export const SKY = {
  /** Of the sun above the horizon. */
  elevation: angle(0.6, { min: 0, max: Math.PI / 2 }),
  /** Haze: 2 is very clear, 10 thick. */
  turbidity: number(3, { min: 1.7, max: 10, step: 0.1 }),
  /** Whether the sun itself shines too. */
  sun: toggle(true),
} satisfies Table;

export const AIR = {
  /** Part of the light that a metre of air takes out of a ray, as the exponent: 0 is clear. */
  density: number(0, { unit: '/m', min: 0, max: 1000, step: 0.01 }),
  /** Part of that which goes on in another direction. */
  color: color([0.9, 0.9, 0.9]),
  /** -1 backwards, 0 everywhere alike, 1 straight on. */
  anisotropy: number(0.3, { min: -0.95, max: 0.95, step: 0.01 }),
  /** Of it, that a ray passes at most. */
  reach: length(4000, { min: 1, max: 1e6, step: 100 }),
} satisfies Table;

/** What the camera sees where nothing stands; it lights nothing. */
export const BEHIND = {
  kind: moving(choice(['surroundings', 'color', 'picture', 'plate', 'transparent'], 'surroundings')),
  color: color([0.18, 0.18, 0.18]),
  /** The picture all around has its left and right changed about. */
  mirrored: toggle(false),
  /** Of a picture all around and of a plate. */
  brightness: brightness(),
  /** Of a picture all around. */
  turn: angle(0),
  /** How strong shadows are on what shows it. */
  shade: share(1),
  /** Of a plate that was filmed: the frame of the shot on which it begins, what it shows then, how fast it runs, and what follows its end. */
  plateStart: unseen(still(number(1, { unit: 'frames', min: -1e6, max: 1e6 }))),
  plateFrom: unseen(number(0, { unit: 's', min: 0, max: 1e5, step: 0.1 })),
  plateSpeed: unseen(still(number(1, { unit: '×', min: -100, max: 100, step: 0.1 }))),
  plateAfter: unseen(choice(['hold', 'again', 'toAndFro', 'gone'], 'hold')),
} satisfies Table;
