import { bestSpots } from './track/bestSpots';
import { pyramidOf, type Grey } from './track/pyramid';
import { trackPoint, type Spot } from './track/trackPoint';

/** Levels of the pictures in which points are looked for. */
const LEVELS = 5;
/** Points that are looked for besides those that were marked. */
const MOST_POINTS = 40;

/** Frames of a clip in brightness, asked for one after another; null where one cannot be read. */
export type ReadFrame = (frame: number) => Promise<Grey | null>;

/**
 * Follows marked points, and the best others, through a clip in both directions. A point is looked for as it was on the frame where it
 * was marked, so that it does not drift; where it no longer looks so, as it was last seen.
 * @param marks on the first frame, in pixels
 * @param told of each frame that is done
 * @returns by point, by frame of the clip; the marks come first
 */
export async function trackClip(
  read: ReadFrame,
  frames: number,
  start: number,
  marks: readonly Spot[],
  told: (done: number) => void,
): Promise<(Spot | null)[][]> {
  const first = await read(start);
  if (!first) return marks.map(() => new Array<Spot | null>(frames).fill(null));
  const pyramid = pyramidOf(first, LEVELS);
  const points = [...marks, ...bestSpots(first, MOST_POINTS, first.width / 14, marks)];
  const tracks = points.map((point) => {
    const own = new Array<Spot | null>(frames).fill(null);
    own[start] = point;
    return own;
  });
  let done = 1;
  told(done);
  for (const way of [1, -1]) {
    const anchors = points.map((at) => ({ picture: pyramid, at, last: at as Spot | null }));
    let before = pyramid;
    for (let frame = start + way; frame >= 0 && frame < frames; frame += way) {
      const grey = await read(frame);
      const now = grey && pyramidOf(grey, LEVELS);
      anchors.forEach((anchor, k) => {
        const { last } = anchor;
        if (!now || !last) return void (anchor.last = null);
        let found = trackPoint(anchor.picture, now, anchor.at, last);
        if (!found && (found = trackPoint(before, now, last))) Object.assign(anchor, { picture: before, at: last });
        anchor.last = found;
        tracks[k]![frame] = found;
      });
      if (now) before = now;
      told(++done);
    }
  }
  return tracks;
}
