import type { Clip } from '../document';

/** Frames of the film one clip makes: for each, which frame of its take is shown. */
export function clipFrames(clip: Clip): number[] {
  const first = Math.min(clip.from, clip.to);
  const count = Math.abs(clip.to - clip.from) + 1;
  const shown = Math.max(1, Math.round(count / clip.speed));
  const run = Array.from({ length: shown }, (_, k) => first + Math.min(count - 1, Math.floor(k * clip.speed + 1e-9)));
  if (clip.reverse) run.reverse();
  return Array.from({ length: clip.loop }, () => run).flat();
}

/** One picture of the film. */
export interface FilmFrame {
  take: string;
  frame: number;
}

/** All pictures of the film, clip after clip. */
export function filmFrames(clips: readonly Clip[]): FilmFrame[] {
  return clips.flatMap((clip) => clipFrames(clip).map((frame) => ({ take: clip.take, frame })));
}
