import type { Shot } from '@zippy/core/document';
import type { KeyMark } from '../store/view/view.state';

/**
 * The frame that something which is dragged is drawn to: the nearest of the playhead, the shot's ends, markers, other keys and the
 * ends of other moves.
 * @param reach frames within which it is drawn there
 * @param dragged what is dragged itself draws nothing
 */
export function snapped(
  shot: Shot,
  frame: number,
  reach: number,
  dragged: { playhead: number; marks: readonly KeyMark[]; moves: readonly string[] },
): number {
  const own = new Set(dragged.marks.map(({ path, frame: at }) => `${path}@${at}`));
  let best = frame;
  let nearest = reach;
  const offer = (at: number) => {
    const away = Math.abs(at - frame);
    if (away < nearest && away > 0) [best, nearest] = [at, away];
    else if (away === 0) [best, nearest] = [frame, 0];
  };
  [dragged.playhead, 1, shot.length, ...(shot.range ?? [])].forEach(offer);
  for (const marker of Object.values(shot.markers)) offer(marker.frame);
  for (const [path, keys] of Object.entries(shot.tracks))
    for (const key of keys) if (!own.has(`${path}@${key.frame}`)) offer(key.frame);
  for (const move of Object.values(shot.moves)) {
    if (dragged.moves.includes(move.id)) continue;
    offer(move.start);
    offer(move.start + move.length * move.repeat);
  }
  return best;
}
