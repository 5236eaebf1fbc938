import { inOrder, TITLE, type Reel, type Title } from '../../document';
import { trackValue } from '../../motion';

/** A title on one frame of the film. */
export interface ShownTitle extends Title {
  /** What it is moved by as it comes or goes, in parts of the film's height: to the right, and down. */
  shift: [number, number];
}

/** How far a title slides, in parts of the film's height. */
const WAY = 0.14;
const DIRECTIONS: Record<Title['enter'], [number, number]> = {
  cut: [0, 0],
  fade: [0, 0],
  fromLeft: [-1, 0],
  fromRight: [1, 0],
  fromBelow: [0, 1],
  fromAbove: [0, -1],
};

/** Titles that are seen on a frame of the film, the lowest first. @param frame from 1 */
export const titlesAt = ({ titles, tracks }: Pick<Reel, 'titles' | 'tracks'>, frame: number): ShownTitle[] =>
  inOrder(titles)
    .filter(({ start, length }) => frame >= start && frame < start + length)
    .map((title) => shown(moved(title, tracks, frame), frame))
    .filter(({ opacity }) => opacity > 0);

/** With the values that its keys give it. */
function moved(title: Title, tracks: Reel['tracks'], frame: number): Title {
  const own: Record<string, unknown> = {};
  for (const name of Object.keys(TITLE)) {
    const path = `reel/titles/${title.id}/${name}`;
    const keys = tracks[path];
    if (keys?.length) own[name] = trackValue(keys, frame, Array.isArray(keys[0]!.value) ? 'vector' : 'number');
  }
  return { ...title, ...own };
}

function shown(title: Title, frame: number): ShownTitle {
  const { start, length, enter, enterFrames, leave, leaveFrames } = title;
  const since = frame - start;
  const coming = enter === 'cut' ? 1 : eased((since + 1) / (enterFrames + 1));
  const going = leave === 'cut' ? 1 : eased((length - since) / (leaveFrames + 1));
  const [ex, ey] = DIRECTIONS[enter];
  const [lx, ly] = DIRECTIONS[leave];
  const shift: [number, number] = [
    WAY * (ex * (1 - coming) + lx * (1 - going)),
    WAY * (ey * (1 - coming) + ly * (1 - going)),
  ];
  return { ...title, opacity: title.opacity * coming * going, shift };
}

const eased = (t: number): number => {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
};
