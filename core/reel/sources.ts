import {
  frameCount,
  heldFrame,
  LIMITS,
  type Asset,
  type Clip,
  type ProjectDocument,
  type Shot,
  type TakeFrames,
} from '../document';

/** What a take tells the reel. */
export interface ReelTake extends TakeFrames {
  id: string;
  shot: string;
  shotName: string;
  number: number;
  settings: { step: number; width: number; height: number };
  /** Frames that are there. */
  done: readonly number[];
}

/** What a clip takes its pictures from. */
export interface ClipFrames {
  /** What it is called, and which one it is. */
  name: string;
  detail: string;
  /** Numbers of its first and last frame, and how many it has a second; null is as many as the film. */
  first: number;
  last: number;
  rate: number | null;
  /** Null where that is not known. */
  size: { width: number; height: number } | null;
  of: { take: ReelTake } | { asset: Asset } | null;
  /** Why not all of it can be shown; empty where it can. */
  fault: '' | 'gone' | 'unfinished' | 'not-rendered';
}

type Known = Pick<ProjectDocument, 'assets'> & { shots: Record<string, Pick<Shot, 'id' | 'name' | 'length'>> };

/**
 * The take that a shot is shown by: of those that are finished, or else of those that have frames, the one that covers most of what is
 * asked for, so that a still or a few frames for a test take no film's place; of several such the newest.
 */
export function newestTake<T extends ReelTake>(
  shot: string,
  takes: readonly T[],
  [from, to]: readonly [number, number] = [1, LIMITS.framesPerShot],
): T | null {
  const own = takes.filter((take) => take.shot === shot && take.done.length > 0);
  const finished = own.filter((take) => take.done.length >= frameCount(take));
  const covered = ({ first, last }: T) => Math.max(0, Math.min(last, to) - Math.max(first, from) + 1);
  return (finished.length > 0 ? finished : own).reduce<T | null>((best, take) => {
    const more = best ? covered(take) - covered(best) : 1;
    return more > 0 || (more === 0 && take.number > best!.number) ? take : best;
  }, null);
}

/** What a clip takes its pictures from, as things stand. */
export function clipFrames(clip: Clip, { assets, shots }: Known, takes: readonly ReelTake[]): ClipFrames {
  const { source } = clip;
  const none = { first: 1, last: Math.max(clip.from, clip.to), rate: null, size: null, of: null, detail: '' };
  switch (source.kind) {
    case 'plain':
      return { ...none, name: 'Plain', fault: '' };
    case 'footage': {
      const asset = assets[source.asset];
      if (!asset?.footage) return { ...none, name: 'Clip is gone', fault: 'gone' };
      const { frames, rate, size } = asset.footage;
      const detail = `${Number(rate.toFixed(3))} a second`;
      return { name: asset.name, detail, first: 1, last: frames.length, rate, size, of: { asset }, fault: '' };
    }
    case 'shot': {
      const shot = shots[source.shot];
      const take = newestTake(source.shot, takes, [Math.min(clip.from, clip.to), Math.max(clip.from, clip.to)]);
      if (take) return ofTake(take, `newest take, ${take.number}`);
      if (!shot) return { ...none, name: 'Shot is gone', fault: 'gone' };
      return { ...none, name: shot.name, detail: 'not rendered yet', last: shot.length, fault: 'not-rendered' };
    }
    case 'take': {
      const take = takes.find(({ id }) => id === source.take);
      return take ? ofTake(take, `take ${take.number}`) : { ...none, name: 'Take is gone', fault: 'gone' };
    }
  }
}

function ofTake(take: ReelTake, detail: string): ClipFrames {
  const { first, last, shotName, done } = take;
  const { width, height } = take.settings;
  const fault = done.length < frameCount(take) ? 'unfinished' : '';
  return { name: shotName, detail, first, last, rate: null, size: { width, height }, of: { take }, fault };
}

/** The frame of a source that is shown for one: its own, or where a take leaves frames out the one that stands for it. */
export const shownFrame = ({ of }: ClipFrames, frame: number): number =>
  of && 'take' in of ? heldFrame(of.take, frame) : frame;
