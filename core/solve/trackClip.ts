import { alignShape, UPRIGHT, type Shape } from './track/alignShape';
import { bestSpots } from './track/bestSpots';
import { pyramidOf, type Grey } from './track/pyramid';
import type { Spot } from './track/spot';
import { trackPoint } from './track/trackPoint';

/** Levels of the pictures in which points are looked for. */
const LEVELS = 5;
/** Points that are looked for besides those that were marked. */
const MOST_POINTS = 40;

/** Pixels between where a point is by the frame before and as it was marked, beyond which it no longer looks so. */
const MOST_APART = 1.5;

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
  // On the smaller picture grain is no place to hold on to.
  const small = pyramid[1] ?? first;
  const by = first.width / small.width;
  const halved = marks.map(({ x, y }) => ({ x: x / by, y: y / by }));
  const others = bestSpots(small, MOST_POINTS, small.width / 14, halved).map(({ x, y }) => ({ x: x * by, y: y * by }));
  const points = [...marks, ...others];
  const tracks = points.map((point) => {
    const own = new Array<Spot | null>(frames).fill(null);
    own[start] = point;
    return own;
  });
  let done = 1;
  told(done);
  for (const way of [1, -1]) {
    const anchors = points.map((at) => ({ picture: pyramid, at, last: { ...at, axes: UPRIGHT } as Shape | null }));
    let before = pyramid;
    for (let frame = start + way; frame >= 0 && frame < frames; frame += way) {
      const grey = await read(frame);
      const now = grey && pyramidOf(grey, LEVELS);
      anchors.forEach((anchor, k) => {
        const { last } = anchor;
        if (!now || !last) return void (anchor.last = null);
        // From one frame to the next little changes: that says where to look for it as it was marked.
        const near = trackPoint(before, now, last);
        let found = near && alignShape(anchor.picture[0]!, now[0]!, anchor.at, { ...near, axes: last.axes });
        if (near && (!found || Math.hypot(found.x - near.x, found.y - near.y) > MOST_APART)) {
          Object.assign(anchor, { picture: now, at: near });
          found = { ...near, axes: UPRIGHT };
        }
        anchor.last = found;
        tracks[k]![frame] = found && { x: found.x, y: found.y };
      });
      if (now) before = now;
      told(++done);
    }
  }
  return tracks;
}
