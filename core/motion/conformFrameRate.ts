import {
  BEHIND,
  CLIP,
  LIMITS,
  nearest,
  REEL,
  TITLE,
  type Key,
  type ProjectDocument,
  type Reel,
  type Shot,
  type Table,
} from '../document';
import { behaviourOf, MOVE, MOVE_KINDS, type Move } from './moves';

type FrameRate = ProjectDocument['frameRate'];

/** Frames per second. */
export const rateOf = ({ numerator, denominator }: FrameRate): number => numerator / denominator;

/**
 * Gives a project another frame rate, and all that happens in it the frames at which it then happens at the same time as before: shots,
 * keys, moves, footage, what is rendered of a shot, and how fast takes that are there play on the reel. Everything stands on whole frames
 * afterwards, except keys that would come to lie on one another.
 */
export function conformFrameRate(draft: ProjectDocument, rate: FrameRate): void {
  const factor = rateOf(rate) / rateOf(draft.frameRate);
  draft.frameRate = { ...rate };
  for (const shot of Object.values(draft.shots)) conformShot(shot, factor);
  for (const { maps } of Object.values(draft.finishes))
    for (const { source } of Object.values(maps))
      if (source.kind === 'footage') source.start = Math.round(1 + (source.start - 1) * factor);
  const { behind } = draft.set;
  behind.plateStart = nearest(BEHIND.plateStart, Math.round(1 + (behind.plateStart - 1) * factor)) as number;
  conformReel(draft.reel, factor);
}

/** Takes that are there play so much faster or slower; what is filmed has its own rate, and shots are rendered anew. */
function conformReel(reel: Reel, factor: number): void {
  const scaled = (thing: object, table: Table, names: string[]) => {
    const numbers = thing as Record<string, number>;
    for (const name of names) numbers[name] = nearest(table[name]!, numbers[name]! * factor) as number;
  };
  const begun = (thing: { start: number }) =>
    void (thing.start = nearest(TITLE.start, 1 + (thing.start - 1) * factor) as number);
  reel.closingFrames = nearest(REEL.closingFrames, reel.closingFrames * factor) as number;
  for (const clip of Object.values(reel.clips)) {
    scaled(clip, CLIP, ['length', 'holdBefore', 'holdAfter', 'changeFrames']);
    if (clip.source.kind === 'take') {
      clip.speed = nearest(CLIP.speed, clip.speed / factor) as number;
      clip.speedEnd = nearest(CLIP.speedEnd, clip.speedEnd / factor) as number;
    }
    if (clip.source.kind === 'plain' || clip.source.kind === 'shot') {
      clip.from = nearest(CLIP.from, 1 + (clip.from - 1) * factor) as number;
      clip.to = nearest(CLIP.to, clip.to * factor) as number;
    }
  }
  for (const title of Object.values(reel.titles)) {
    begun(title);
    scaled(title, TITLE, ['length', 'enterFrames', 'leaveFrames']);
  }
  for (const sound of Object.values(reel.sounds)) begun(sound);
  for (const track of Object.values(reel.tracks))
    conformKeys(track, (frame) => Math.min(LIMITS.framesPerShot, 1 + (frame - 1) * factor));
}

function conformShot(shot: Shot, factor: number): void {
  const before = shot.length;
  shot.length = Math.min(LIMITS.framesPerShot, Math.max(1, Math.round(before * factor)));
  // The last picture stays the last.
  const exact = (frame: number) => (frame === before ? shot.length : 1 + (frame - 1) * factor);
  for (const track of Object.values(shot.tracks)) conformKeys(track, exact);
  for (const move of Object.values(shot.moves)) conformMove(move, before, shot.length, factor);
  const within = (frame: number) => Math.min(shot.length, Math.max(1, Math.round(exact(frame))));
  for (const marker of Object.values(shot.markers)) marker.frame = within(marker.frame);
  if (shot.range) {
    shot.range = [within(shot.range[0]), within(shot.range[1])];
  }
}

function conformKeys(track: Key[], exact: (frame: number) => number): void {
  const frames = track.map(({ frame }) => exact(frame));
  const whole = frames.map(Math.round);
  const apart = new Set(whole).size === whole.length;
  for (const [k, key] of track.entries()) key.frame = (apart ? whole : frames)[k]!;
}

function conformMove(move: Move, before: number, after: number, factor: number): void {
  const frames = move.length * move.repeat;
  // What fills the shot goes on filling it, so that loops close.
  const runs = move.start === 1 && frames === before ? after : Math.max(1, Math.round(frames * factor));
  move.start = Math.round(1 + (move.start - 1) * factor);
  move.length = Math.min(LIMITS.framesPerShot, Math.max(1, runs / move.repeat));
  behaviourOf(move).retimed?.(move, factor);
  move.perCopy = nearest(MOVE.perCopy, move.perCopy * factor) as number;
  const own: Table = MOVE_KINDS[move.kind].properties;
  for (const [name, property] of Object.entries(own)) {
    if (property.unit !== MOVE.length.unit) continue;
    const numbers = move as unknown as Record<string, number>;
    numbers[name] = nearest(property, numbers[name]! * factor) as number;
  }
}
