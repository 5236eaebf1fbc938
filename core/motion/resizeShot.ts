import { LIMITS, newId, type Shot } from '../document';

/**
 * Gives a shot another length. Moves that fill the whole shot go on filling it, as what they are for is the shot (a turn stays one
 * turn); others and keys keep their frames, or are stretched along. What is rendered stays inside.
 */
export function resizeShot(shot: Shot, length: number, stretches = false): void {
  if (stretches) stretchShot(shot, length);
  for (const move of Object.values(shot.moves)) {
    if (move.start === 1 && move.length * move.repeat === shot.length) move.length = Math.max(1, length / move.repeat);
  }
  shot.length = length;
  if (shot.range) shot.range = rangeOf(shot);
}

/** Gives keys, moves and markers the frames at which the same part of the shot has passed. */
function stretchShot(shot: Shot, length: number): void {
  const factor = length / shot.length;
  const to = (frame: number) => (frame === shot.length ? length : Math.round(1 + (frame - 1) * factor));
  for (const [path, keys] of Object.entries(shot.tracks)) {
    const made = new Map(keys.map((key) => [to(key.frame), { ...key, frame: to(key.frame) }]));
    shot.tracks[path] = [...made.values()];
  }
  for (const move of Object.values(shot.moves)) {
    if (move.start === 1 && move.length * move.repeat === shot.length) continue;
    move.start = to(move.start);
    move.length = Math.min(LIMITS.framesPerShot, Math.max(1, Math.round(move.length * factor)));
  }
  for (const marker of Object.values(shot.markers)) marker.frame = Math.min(length, Math.max(1, to(marker.frame)));
}

/**
 * Cuts a shot in two: the second one begins on a frame of the first, and all that moves goes on in it as it was.
 * @param id of the second one, whose name and place in the film are the caller's
 * @throws RangeError where the frame is not inside the shot
 */
export function splitShot(shot: Shot, frame: number, id: string): [Shot, Shot] {
  if (frame <= 1 || frame > shot.length) throw new RangeError('a shot is cut between its frames');
  const [first, second] = [structuredClone(shot), { ...structuredClone(shot), id }];
  const by = frame - 1;
  first.length = by;
  second.length = shot.length - by;
  for (const keys of Object.values(second.tracks)) for (const key of keys) key.frame -= by;
  second.moves = Object.fromEntries(
    Object.values(second.moves).map((move) => {
      const own = { ...move, id: newId(), start: move.start - by };
      return [own.id, own];
    }),
  );
  const within = (range: [number, number] | null, length: number, from: number): [number, number] | null => {
    if (!range) return null;
    const [a, b] = [Math.max(1, range[0] - from), Math.min(length, range[1] - from)];
    return a <= b ? [a, b] : null;
  };
  first.range = within(shot.range, first.length, 0);
  second.range = within(shot.range, second.length, by);
  for (const [key, marker] of Object.entries(shot.markers)) {
    if (marker.frame > by) delete first.markers[key];
    else delete second.markers[key];
  }
  for (const marker of Object.values(second.markers)) marker.frame -= by;
  return [first, second];
}

/** First and last frame of a shot that are rendered. */
export function rangeOf({ range, length }: Pick<Shot, 'range' | 'length'>): [number, number] {
  return range ? [Math.min(range[0], length), Math.min(range[1], length)] : [1, length];
}
