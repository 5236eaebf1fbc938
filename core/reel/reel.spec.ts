import { describe, expect, it } from 'vitest';
import type { Clip } from '../document';
import { clipFrames, FILM_FORMATS, FILM_QUALITIES, filmFrames } from './index';

const clip = (over: Partial<Clip> = {}): Clip => ({
  id: 'c',
  order: 0,
  take: 't',
  from: 1,
  to: 4,
  speed: 1,
  loop: 1,
  reverse: false,
  ...over,
});

describe('a clip', () => {
  it('plays its frames once', () => expect(clipFrames(clip())).toEqual([1, 2, 3, 4]));
  it('loops without showing a frame twice at the seam', () =>
    expect(clipFrames(clip({ loop: 4 }))).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1, 2, 3, 4, 1, 2, 3, 4]));
  it('slows down by showing frames longer', () =>
    expect(clipFrames(clip({ speed: 0.5 }))).toEqual([1, 1, 2, 2, 3, 3, 4, 4]));
  it('speeds up by leaving frames out', () => expect(clipFrames(clip({ speed: 2 }))).toEqual([1, 3]));
  it('runs backwards', () => expect(clipFrames(clip({ reverse: true, from: 2 }))).toEqual([4, 3, 2]));
  it('has at least one picture', () => expect(clipFrames(clip({ speed: 20 }))).toEqual([1]));
});

describe('a film', () => {
  it('puts clips one after another', () => {
    const film = filmFrames([clip({ to: 2 }), clip({ take: 'u', from: 5, to: 5 })]);
    expect(film).toEqual([
      { take: 't', frame: 1 },
      { take: 't', frame: 2 },
      { take: 'u', frame: 5 },
    ]);
  });
  it('asks for an exact rate', () => {
    const rate = { numerator: 24000, denominator: 1001 };
    const asked = FILM_FORMATS.mp4.encode!({ width: 10, height: 10, rate, quality: 'good' }, 'out.mp4');
    expect(asked).toContain('24000/1001');
  });
  it('keeps more of the picture the finer it is asked for', () => {
    const factors = FILM_QUALITIES.map((quality) => {
      const settings = { width: 10, height: 10, rate: { numerator: 24, denominator: 1 }, quality };
      const asked = FILM_FORMATS.mp4.encode!(settings, 'out.mp4');
      return Number(asked[asked.indexOf('-crf') + 1]);
    });
    expect(factors).toEqual([...factors].sort((a, b) => a - b));
    expect(new Set(factors).size).toBe(3);
  });
});
