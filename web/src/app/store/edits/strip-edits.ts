import { copyOf, newId, type Key, type Pace, type Shot } from '@zippy/core/document';
import type { KeyMark } from '../view/view.state';

/** Puts keys on a track; one that stood on the same frame gives way. An empty track goes. */
export function putKeys(shot: Pick<Shot, 'tracks'>, path: string, rest: Key[], added: Key[]): void {
  const taken = new Set(added.map((key) => key.frame));
  const keys = [...rest.filter((key) => !taken.has(key.frame)), ...added].sort((a, b) => a.frame - b.frame);
  if (keys.length > 0) shot.tracks[path] = keys;
  else delete shot.tracks[path];
}

export function byTrack(marks: readonly KeyMark[]): Map<string, Set<number>> {
  const frames = new Map<string, Set<number>>();
  for (const { path, frame } of marks) frames.set(path, (frames.get(path) ?? new Set()).add(frame));
  return frames;
}

/** Shifts marked keys in time and gives their new marks. */
export function shiftKeys(shot: Pick<Shot, 'tracks'>, marks: readonly KeyMark[], by: number): KeyMark[] {
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const carried = track.filter((key) => frames.has(key.frame)).map((key) => ({ ...key, frame: key.frame + by }));
    putKeys(
      shot,
      path,
      track.filter((key) => !frames.has(key.frame)),
      carried,
    );
  }
  return marks.map(({ path, frame }) => ({ path, frame: frame + by }));
}

/** Copies marked keys so that the first stands on `frame`, and gives the marks of the copies. */
export function copyKeys(shot: Shot, marks: readonly KeyMark[], frame: number): KeyMark[] {
  const by = frame - Math.min(...marks.map((mark) => mark.frame));
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const copies = track
      .filter((key) => frames.has(key.frame))
      .map((key) => ({ ...copyOf(key), frame: key.frame + by }));
    putKeys(shot, path, track, copies);
  }
  return marks.map((mark) => ({ path: mark.path, frame: mark.frame + by }));
}

export function deleteKeys(shot: Pick<Shot, 'tracks'>, marks: readonly KeyMark[]): void {
  for (const [path, frames] of byTrack(marks)) {
    const rest = (shot.tracks[path] ?? []).filter((key) => !frames.has(key.frame));
    putKeys(shot, path, rest, []);
  }
}

/** Sets how values travel from marked keys to the next ones. */
export function paceKeys(shot: Pick<Shot, 'tracks'>, marks: readonly KeyMark[], pace: Pace): void {
  for (const { path, frame } of marks) {
    const key = shot.tracks[path]?.find((each) => each.frame === frame);
    if (key) key.pace = pace;
  }
}

/** Shifts moves in time from where they stood. */
export function shiftMoves(shot: Shot, starts: ReadonlyMap<string, number>, by: number): void {
  for (const [id, start] of starts) if (shot.moves[id]) shot.moves[id].start = start + by;
}

/**
 * Makes a move longer or shorter by frames of the whole block; its repeats share them.
 * @param start where it began, if its beginning is pulled and its end stays
 */
export function stretchMove(shot: Shot, id: string, length: number, by: number, start?: number): void {
  const move = shot.moves[id];
  if (!move) return;
  if (start === undefined) {
    move.length = Math.max(1, length + Math.round(by / move.repeat));
    return;
  }
  const end = start + length * move.repeat;
  move.length = Math.max(1, length - Math.round(by / move.repeat));
  move.start = end - move.length * move.repeat;
}

/** Copies moves so that the first begins on `frame`, and gives the ids of the copies. */
export function copyMoves(shot: Shot, ids: readonly string[], frame: number): string[] {
  const moves = ids.flatMap((id) => shot.moves[id] ?? []);
  const by = frame - Math.min(...moves.map((move) => move.start));
  return moves.map((move) => {
    const id = newId();
    shot.moves[id] = { ...copyOf(move), id, start: move.start + by };
    return id;
  });
}
