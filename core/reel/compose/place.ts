import type { Clip } from '../../document';

export interface Size {
  width: number;
  height: number;
}
/** Where a picture lies in another one, in its pixels. */
export interface Place extends Size {
  x: number;
  y: number;
}

/** How a picture of one size comes into that of the film; where it is larger than that, the point that counts stays in sight. */
export function placeIn(
  of: Size,
  film: Size,
  { fit, zoom, aimX, aimY }: Pick<Clip, 'fit' | 'zoom' | 'aimX' | 'aimY'>,
): Place {
  const [across, down] = [film.width / of.width, film.height / of.height];
  const scale = zoom * { whole: Math.min(across, down), fill: Math.max(across, down), trueSize: 1 }[fit];
  const [width, height] = [of.width * scale, of.height * scale];
  return { x: along(width, film.width, aimX), y: along(height, film.height, aimY), width, height };
}

/** In the middle where there is room, or so that a point of it comes as near to the middle as its ends allow. */
function along(length: number, room: number, aim: number): number {
  if (length <= room) return (room - length) / 2;
  return Math.min(0, Math.max(room - length, room / 2 - aim * length));
}
