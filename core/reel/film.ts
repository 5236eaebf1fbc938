import { inOrder, type Clip, type ProjectDocument, type Reel, type Vector3 } from '../document';
import { rateOf } from '../motion';
import { changeKind, type Mask } from './changes';
import { clipFrames, type ClipFrames, type ReelTake } from './sources';
import { clipTiming, type ClipTiming, type SourceShare } from './timing';

/** A clip where it lies in the film. */
export interface LaidClip {
  clip: Clip;
  source: ClipFrames;
  timing: ClipTiming;
  /** First frame of the film that it is seen on, from 1, and how many it lasts. */
  start: number;
  frames: number;
  /** Frames for which it is seen together with the one before it, or that take it out of a colour. */
  change: number;
}

export interface Film {
  clips: LaidClip[];
  frames: number;
  size: { width: number; height: number };
  /** Frames a second. */
  rate: number;
  reel: Reel;
}

/** What a frame of the film is made of. */
export interface FilmPicture {
  /** From the one below to the one above. */
  shown: { laid: LaidClip; frames: SourceShare[] }[];
  /** What is seen of the upper one. */
  mask: Mask | null;
  /** A colour that lies over it, linear, and how much of it is seen. */
  veil: { color: Vector3; share: number } | null;
}

type Known = Pick<ProjectDocument, 'assets' | 'reel' | 'frameRate' | 'picture'> & {
  shots: Parameters<typeof clipFrames>[1]['shots'];
};

/** Lays the clips of the reel one behind the other. */
export function layFilm(document: Known, takes: readonly ReelTake[]): Film {
  const { reel } = document;
  const rate = rateOf(document.frameRate);
  const clips: LaidClip[] = [];
  let end = 0;
  for (const clip of inOrder(reel.clips)) {
    const source = clipFrames(clip, document, takes);
    const timing = clipTiming(clip, source, rate);
    const before = clips.at(-1);
    const { overlaps, colored } = changeKind(clip.change);
    // Each end of a clip is given to one change at the most.
    const room = Math.floor(Math.min(before ? before.frames : timing.frames, timing.frames) / 2);
    const change = colored || (overlaps && before) ? Math.min(clip.changeFrames, colored ? 2 * room : room) : 0;
    const start = end + 1 - (overlaps ? change : 0);
    clips.push({ clip, source, timing, start, frames: timing.frames, change });
    end = start + timing.frames - 1;
  }
  const size = reel.picture ?? clips.find(({ source }) => source.size)?.source.size ?? document.picture;
  return { clips, frames: end, size, rate, reel };
}

/** @param frame from 1 */
export function filmPicture({ clips, frames, size, reel }: Film, frame: number): FilmPicture {
  const seen = clips.filter(({ start, frames: length }) => frame >= start && frame < start + length);
  const shown = seen.map((laid) => ({ laid, frames: laid.timing.at(frame - laid.start) }));
  const upper = seen.length > 1 ? seen.at(-1)! : null;
  // The first picture of a change shows a little of what comes, and the last one a little of what goes.
  const mask = upper
    ? changeKind(upper.clip.change).mask!((frame - upper.start + 1) / (upper.change + 1), size, upper.clip)
    : null;
  return { shown, mask, veil: veilAt(clips, frame) ?? closing(reel, frames, frame) };
}

/** The colour of a dip where one is at work: half of it before the cut, half of it behind. */
function veilAt(clips: readonly LaidClip[], frame: number): FilmPicture['veil'] {
  for (const [k, { clip, start, change }] of clips.entries()) {
    if (!changeKind(clip.change).colored) continue;
    const half = change / 2;
    const away = frame < start ? start - frame - 0.5 : frame - start + 0.5;
    if (k === 0 && frame < start) continue;
    // The first clip comes out of the colour over all of its change.
    const reach = k === 0 ? change : half;
    if (away < reach) return { color: clip.changeColor, share: 1 - away / reach };
  }
  return null;
}

function closing(
  { closingFrames, closingColor }: Pick<Reel, 'closingFrames' | 'closingColor'>,
  frames: number,
  frame: number,
): FilmPicture['veil'] {
  const share = closingFrames > 0 ? (frame - (frames - closingFrames)) / closingFrames : 0;
  return share > 0 ? { color: closingColor, share } : null;
}
