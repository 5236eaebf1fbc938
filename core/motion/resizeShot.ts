import type { Shot } from '../document';

/**
 * Gives a shot another length. Moves that fill the whole shot go on filling it, as what they are for is the shot (a turn stays one
 * turn); others and keys keep their frames. What is rendered stays inside.
 */
export function resizeShot(shot: Shot, length: number): void {
  for (const move of Object.values(shot.moves)) {
    if (move.start === 1 && move.length * move.repeat === shot.length) move.length = Math.max(1, length / move.repeat);
  }
  shot.length = length;
  if (shot.range) shot.range = rangeOf(shot);
}

/** First and last frame of a shot that are rendered. */
export function rangeOf({ range, length }: Pick<Shot, 'range' | 'length'>): [number, number] {
  return range ? [Math.min(range[0], length), Math.min(range[1], length)] : [1, length];
}
