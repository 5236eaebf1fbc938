import { LIMITS } from './limits';
import { count, number, still, toggle, unseen, type Table } from './property';

export const SHOT = {
  /** The first frame is 1. */
  length: unseen(still(count(96, { unit: 'frames', min: 1, max: LIMITS.framesPerShot }))),
} satisfies Table;

/** A take on the reel. */
export const CLIP = {
  /** First and last frame of the take that are used. */
  from: unseen(still(count(1, { min: 1, max: LIMITS.framesPerShot }))),
  to: unseen(still(count(1, { min: 1, max: LIMITS.framesPerShot }))),
  /** 0.5 plays at half speed. */
  speed: unseen(still(number(1, { unit: '×', min: 0.05, max: 20, step: 0.05 }))),
  /** How often it is shown. */
  loop: unseen(still(count(1, { min: 1, max: 1000 }))),
  reverse: unseen(still(toggle(false))),
} satisfies Table;
