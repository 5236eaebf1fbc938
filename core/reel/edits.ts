import { CLIP, nearest, type Clip } from '../document';
import type { LaidClip } from './film';

/** Frames of its source that pass with one of the film, at either end of a clip. */
const paceAt = ({ clip, source }: LaidClip, end: 'start' | 'end', filmRate: number): number => {
  const speed = end === 'end' && clip.ramp !== 'none' ? clip.speedEnd : clip.speed;
  return speed * ((source.rate ?? filmRate) / filmRate);
};

const within = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));
const ends = ({ from, to }: Clip): [number, number] => [Math.min(from, to), Math.max(from, to)];

/**
 * What a clip becomes when one of its ends is dragged.
 * @param by frames of the film, later ones positive
 */
export function trimClip(laid: LaidClip, end: 'start' | 'end', by: number, filmRate: number): Partial<Clip> {
  const { clip, source } = laid;
  const [from, to] = ends(clip);
  const longer = end === 'end' ? by : -by;
  if (clip.source.kind === 'plain' && clip.repeat === 'times')
    return { from, to: nearest(CLIP.to, Math.max(from, to + longer)) as number };
  if (clip.repeat === 'length') return { length: nearest(CLIP.length, clip.length + longer) as number };
  const moved = Math.round(by * paceAt(laid, end, filmRate));
  // Played backwards, it begins with its last frame.
  if ((end === 'start') !== (clip.play === 'backwards')) {
    const shift = clip.play === 'backwards' ? -moved : moved;
    return { from: within(from + shift, source.first, Math.min(to, source.last)), to };
  }
  const shift = clip.play === 'backwards' ? -moved : moved;
  return { from, to: within(to + shift, Math.max(from, source.first), source.last) };
}

/** Shows an earlier or later stretch of its source for as long. @param by frames of the source */
export function slipClip({ clip, source }: Pick<LaidClip, 'clip' | 'source'>, by: number): Partial<Clip> {
  const [from, to] = ends(clip);
  const shift = within(by, source.first - from, source.last - to);
  return { from: from + shift, to: to + shift };
}

/**
 * The two clips that one becomes.
 * @param at frames of it that the first one keeps
 * @returns a sentence where it cannot be split there
 */
export function splitClip(laid: LaidClip, at: number): [Partial<Clip>, Partial<Clip>] | string {
  const { clip, timing, source } = laid;
  if (at < 1 || at >= timing.frames) return 'Put the playhead into the clip that is to be split.';
  const [from, to] = ends(clip);
  const [head, tail]: [Partial<Clip>, Partial<Clip>] = [{ holdAfter: 0 }, { holdBefore: 0, change: 'cut' }];
  if (clip.source.kind === 'plain' && clip.repeat === 'times')
    return [{ ...head, to: from + at - 1 }, { ...tail, from: from + at }]; // prettier-ignore
  const body = timing.frames - clip.holdBefore - clip.holdAfter;
  const inside = at - clip.holdBefore;
  if (inside < 1 || inside >= body) return 'A picture that is held cannot be split. Split the clip where it moves.';
  const runs = clip.repeat === 'length' || clip.loop > 1 || clip.play === 'toAndFro';
  if (runs) {
    const { cycle } = timing;
    if (inside % cycle !== 0)
      return `A clip that repeats can only be split where a run of it ends: every ${cycle} frames of the film.`;
    if (clip.repeat === 'length')
      return [
        { ...head, length: inside },
        { ...tail, length: body - inside },
      ];
    const first = inside / cycle;
    return [
      { ...head, loop: first },
      { ...tail, loop: clip.loop - first },
    ];
  }
  const shown = timing.at(at)[0]!.frame;
  const speed = speedAt(laid, inside / body);
  const [slower, faster] = clip.ramp === 'none' ? [{}, {}] : [{ ramp: 'even', speedEnd: speed } as const, { ramp: 'even', speed } as const]; // prettier-ignore
  if (clip.play === 'backwards') {
    const last = within(shown, from, to - 1);
    return [
      { ...head, ...slower, from: last + 1, to },
      { ...tail, ...faster, from, to: last },
    ];
  }
  const begin = within(shown, Math.max(from, source.first) + 1, to);
  return [
    { ...head, ...slower, from, to: begin - 1 },
    { ...tail, ...faster, from: begin, to },
  ];
}

const speedAt = ({ clip }: LaidClip, u: number): number => {
  const eased = clip.ramp === 'soft' ? u * u * (3 - 2 * u) : u;
  return nearest(CLIP.speed, clip.speed + (clip.speedEnd - clip.speed) * eased) as number;
};
