import type { Clip } from '../document';
import { shownFrame, type ClipFrames } from './sources';

/** A frame of a source, and which part of the picture is of it. */
export interface SourceShare {
  frame: number;
  share: number;
}

/** How a clip runs. */
export interface ClipTiming {
  /** Frames of the film that it lasts. */
  frames: number;
  /** And how many one run of it takes. */
  cycle: number;
  /** What it shows on one of them, from 0: shares that add up to 1. */
  at(frame: number): SourceShare[];
}

/** Frames of a source that are mixed at most where it runs fast. */
const MOST_MIXED = 8;
const EDGE = 1e-6;

/**
 * When which frames of its source a clip shows. Speed goes from `speed` to `speedEnd`: evenly, or along 3u² − 2u³, so that the mean of
 * both is its mean in either case.
 * @param filmRate frames of the film a second
 */
export function clipTiming(clip: Clip, source: ClipFrames, filmRate: number): ClipTiming {
  const within = (frame: number) => Math.min(source.last, Math.max(source.first, frame));
  const first = within(Math.min(clip.from, clip.to));
  const count = within(Math.max(clip.from, clip.to)) - first + 1;
  const conform = (source.rate ?? filmRate) / filmRate;
  const begins = clip.speed * conform;
  const ends = (clip.ramp === 'none' ? clip.speed : clip.speedEnd) * conform;
  const exact = (2 * count) / (begins + ends);
  const run = Math.max(1, Math.round(exact));
  /** Frames of the source that have passed after so many of the film. */
  const passed = (k: number): number => {
    const u = k / exact;
    const eased = clip.ramp === 'soft' ? u ** 3 - u ** 4 / 2 : u ** 2 / 2;
    return exact * (begins * u + (ends - begins) * eased);
  };
  const shares = (k: number): SourceShare[] => {
    const from = Math.min(count - EDGE, passed(k));
    const mixed = clip.between === 'blend' ? blended(from, Math.max(from, passed(k + 1)), count) : [nearestTo(from)];
    return merged(mixed.map(({ frame, share }) => ({ frame: shownFrame(source, first + frame), share })));
  };
  const cycle = clip.play === 'toAndFro' ? Math.max(1, 2 * run - 2) : run;
  const body = clip.repeat === 'length' ? clip.length : cycle * clip.loop;
  return {
    frames: clip.holdBefore + body + clip.holdAfter,
    cycle,
    at: (frame) => {
      const phase = Math.min(body - 1, Math.max(0, frame - clip.holdBefore)) % cycle;
      if (clip.play === 'backwards') return shares(run - 1 - phase);
      return shares(phase < run ? phase : 2 * run - 2 - phase);
    },
  };
}

const nearestTo = (position: number): SourceShare => ({ frame: Math.floor(position + EDGE), share: 1 });

/** Between two frames where it runs slowly; of all that pass during a frame of the film where it runs fast. */
function blended(from: number, to: number, count: number): SourceShare[] {
  const last = count - 1;
  if (to - from <= 1 + EDGE) {
    const frame = Math.floor(from + EDGE);
    const share = Math.max(0, from - frame);
    return share < EDGE || frame >= last
      ? [{ frame: Math.min(last, frame), share: 1 }]
      : [
          { frame, share: 1 - share },
          { frame: frame + 1, share },
        ];
  }
  const samples = Math.min(MOST_MIXED, Math.ceil(to - from));
  return Array.from({ length: samples }, (_, k) => ({
    frame: Math.min(last, Math.floor(from + ((k + 0.5) / samples) * (to - from))),
    share: 1 / samples,
  }));
}

/** Frames that a take leaves out are shown by the same one. */
function merged(shares: SourceShare[]): SourceShare[] {
  const sums = new Map<number, number>();
  for (const { frame, share } of shares) sums.set(frame, (sums.get(frame) ?? 0) + share);
  return [...sums].map(([frame, share]) => ({ frame, share }));
}
