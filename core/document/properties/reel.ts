import { LIMITS } from './limits';
import {
  angle,
  choice,
  color,
  count,
  number,
  share,
  still,
  toggle,
  unseen,
  type Property,
  type Table,
} from './property';

/** What is said once of something on the reel. */
const once = <P extends Property>(of: P): P => unseen(still(of));
const frames = (standard: number, least = 0) =>
  once(count(standard, { unit: 'frames', min: least, max: LIMITS.framesPerShot }));

/** The film as a whole. */
export const REEL = {
  /** Frames over which its end goes to a colour. */
  closingFrames: frames(0),
  closingColor: once(color([0, 0, 0])),
  /** Titles stay within the inner nine tenths; drawn while the film is put together. */
  safeAreas: once(toggle(false)),
} satisfies Table;

/** A take, a film or a row of pictures on the reel. */
export const CLIP = {
  /** First and last frame of its source that are used. */
  from: once(count(1, { min: 1, max: LIMITS.framesPerShot })),
  to: once(count(1, { min: 1, max: LIMITS.framesPerShot })),
  /** 0.5 plays at half speed. */
  speed: once(number(1, { unit: '×', min: 0.05, max: 20, step: 0.05 })),
  /** How its speed goes over to another one: not, evenly, or softly at both ends. */
  ramp: once(choice(['none', 'even', 'soft'], 'none')),
  speedEnd: once(number(1, { unit: '×', min: 0.05, max: 20, step: 0.05 })),
  /** What is seen between two of its frames. */
  between: once(choice(['nearest', 'blend'], 'nearest')),
  play: once(choice(['forwards', 'backwards', 'toAndFro'], 'forwards')),
  /** It is repeated so many times, or until it is so long. */
  repeat: once(choice(['times', 'length'], 'times')),
  loop: once(count(1, { min: 1, max: 1000 })),
  length: frames(96, 1),
  /** Frames for which its first and its last picture stand. */
  holdBefore: frames(0),
  holdAfter: frames(0),
  /** How a picture of another shape comes into the film's: whole, filling it, or pixel for pixel. */
  fit: once(choice(['whole', 'fill', 'trueSize'], 'whole')),
  zoom: once(number(1, { unit: '×', min: 0.1, max: 20, step: 0.05 })),
  /** The point of its picture that stays in sight where it is cut, in parts of its width and height. */
  aimX: once(share(0.5)),
  aimY: once(share(0.5)),
  /** What stands beside a picture that does not fill the film's; the whole picture of a plain clip. */
  ground: once(color([0, 0, 0])),
  /** How the clip before it gives way to it. */
  change: once(choice(['cut', 'fade', 'dip', 'wipe'], 'cut')),
  changeFrames: frames(12, 1),
  /** What a dip goes through. */
  changeColor: once(color([0, 0, 0])),
  /** Where a wipe goes to, counter-clockwise from the right, and how soft its edge is in parts of the picture's width. */
  wipeTurn: once(angle(0, { min: -Math.PI * 2, max: Math.PI * 2 })),
  wipeSoft: once(share(0.1)),
} satisfies Table;

const WAYS_IN = ['cut', 'fade', 'fromLeft', 'fromRight', 'fromBelow', 'fromAbove'] as const;
/** Of a title it moves on the film's own frames. */
const moving = <P extends Property>(of: P): P => unseen(of);

/** Words or a picture over the film. */
export const TITLE = {
  start: frames(1, 1),
  length: frames(48, 1),
  /** Where it is held, in parts of the film's width and height from the top left. */
  x: moving(number(0.5, { unit: '%', scale: 0.01, min: -1, max: 2, step: 0.5 })),
  y: moving(number(0.82, { unit: '%', scale: 0.01, min: -1, max: 2, step: 0.5 })),
  /** Which part of it is held there. */
  align: once(choice(['left', 'middle', 'right'], 'middle')),
  stand: once(choice(['top', 'middle', 'bottom'], 'middle')),
  /** Height of its letters, or of its picture, in parts of the film's height. */
  size: moving(number(0.08, { unit: '%', scale: 0.01, min: 0.002, max: 3, step: 0.5 })),
  turn: moving(angle(0)),
  color: moving(color([1, 1, 1])),
  opacity: moving(share(1)),
  /** What is added between letters, and how far lines are apart, in parts of the letters' height. */
  spacing: moving(number(0, { unit: '%', scale: 0.01, min: -0.5, max: 3, step: 1 })),
  lineHeight: moving(number(1.2, { unit: '×', min: 0.3, max: 5, step: 0.05 })),
  /** Width of a line around letters, in parts of their height. */
  outline: moving(number(0, { unit: '%', scale: 0.01, min: 0, max: 0.5, step: 0.5 })),
  outlineColor: moving(color([0, 0, 0])),
  /** How it comes and goes. */
  enter: once(choice(WAYS_IN, 'fade')),
  enterFrames: frames(12, 1),
  leave: once(choice(WAYS_IN, 'fade')),
  leaveFrames: frames(12, 1),
} satisfies Table;

/** A sound under the film. */
export const SOUND = {
  /** Frame of the film on which it begins. */
  start: frames(1, 1),
  /** Seconds of it that are left out before, and that are heard; 0 is all that is there. */
  from: once(number(0, { unit: 's', min: 0, max: 86_400, step: 0.1 })),
  lasts: once(number(0, { unit: 's', min: 0, max: 86_400, step: 0.1 })),
  level: once(number(0, { unit: 'dB', min: -60, max: 12, step: 0.5 })),
  fadeIn: once(number(0, { unit: 's', min: 0, max: 600, step: 0.1 })),
  fadeOut: once(number(0, { unit: 's', min: 0, max: 600, step: 0.1 })),
  muted: once(toggle(false)),
} satisfies Table;
