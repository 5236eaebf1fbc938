import { describe, expect, it } from 'vitest';
import { newTitle } from '../document';
import { filmPicture, layFilm, type Film } from './film';
import { newestTake } from './sources';
import { footageAsset, reelOf, reelTake } from './testing/reels';
import { titlesAt } from './titles';

const takes = [reelTake()];
const lay = (...clips: Parameters<typeof reelOf>[0]): Film => layFilm(reelOf(clips), takes);
const frameOf = (film: Film, frame: number) =>
  filmPicture(film, frame).shown.map(({ laid, frames }) => [laid.clip.id, frames[0]!.frame]);

describe('a film', () => {
  it('puts clips one after another', () => {
    const film = lay({ to: 2 }, { from: 5, to: 5 });
    expect([film.frames, frameOf(film, 1), frameOf(film, 2), frameOf(film, 3)]).toEqual([
      3,
      [['c0', 1]],
      [['c0', 2]],
      [['c1', 5]],
    ]);
    expect(film.size).toEqual({ width: 160, height: 90 });
  });

  it('becomes shorter where clips fade into each other, and shows a little of each at both ends', () => {
    const film = lay({}, { change: 'fade', changeFrames: 4 });
    expect(film.frames).toBe(16);
    expect(frameOf(film, 7)).toEqual([['c0', 7], ['c1', 1]]); // prettier-ignore
    const shares = [6, 7, 8, 9, 10, 11].map((frame) => {
      const { mask } = filmPicture(film, frame);
      return mask?.kind === 'even' ? mask.share : null;
    });
    expect(shares).toEqual([null, 0.2, 0.4, 0.6, 0.8, null]);
  });

  it('never lets a change take more than half of a clip, so that no three are seen at once', () => {
    const film = lay({}, { change: 'fade', changeFrames: 90, to: 4 }, { change: 'wipe', changeFrames: 90 });
    for (let frame = 1; frame <= film.frames; frame++)
      expect(filmPicture(film, frame).shown.length).toBeLessThanOrEqual(2);
    expect(film.frames).toBe(10 + 4 + 10 - 2 - 2);
  });

  it('wipes from nothing to all along its turn', () => {
    const film = lay({}, { change: 'wipe', changeFrames: 3, wipeTurn: Math.PI / 2, wipeSoft: 0 });
    const { mask } = filmPicture(film, 9);
    expect(mask).toMatchObject({ kind: 'edge' });
    if (mask?.kind !== 'edge') return;
    // Upwards: what is below is seen first, and in the middle of it the edge is in the middle.
    expect(mask.from[1]).toBeGreaterThan(mask.to[1]);
    expect((mask.from[1] + mask.to[1]) / 2).toBeCloseTo(45, 0);
  });

  it('dips into a colour and out of it, begins out of one and ends in one', () => {
    const document = reelOf([{ change: 'dip', changeFrames: 4 }, { change: 'dip', changeFrames: 4, changeColor: [1, 1, 1] }]);
    document.reel.closingFrames = 2;
    const film = layFilm(document, takes);
    expect(film.frames).toBe(20);
    const veil = (frame: number) => filmPicture(film, frame).veil;
    expect([1, 2, 4, 5].map((frame) => veil(frame)?.share ?? 0)).toEqual([0.875, 0.625, 0.125, 0]);
    expect(veil(10)).toEqual({ color: [1, 1, 1], share: 0.75 });
    expect([9, 10, 11, 12, 13].map((frame) => veil(frame)?.share ?? 0)).toEqual([0.25, 0.75, 0.75, 0.25, 0]);
    expect([18, 19, 20].map((frame) => veil(frame)?.share ?? 0)).toEqual([0, 0.5, 1]);
  }); // prettier-ignore

  it('follows the newest finished take of a shot, or what there is of one', () => {
    const [old, newer, begun] = [
      reelTake({ id: 'old', number: 1 }),
      reelTake({ id: 'newer', number: 2 }),
      reelTake({ id: 'begun', number: 3, done: [1, 2] }),
    ];
    expect(newestTake('s', [newer, old, begun])?.id).toBe('newer');
    expect(newestTake('s', [begun])?.id).toBe('begun');
    // A still of a frame takes no film's place, however new it is.
    const still = reelTake({ id: 'still', number: 9, first: 4, last: 4 });
    expect([newestTake('s', [old, still])?.id, newestTake('s', [old, still], [4, 4])?.id]).toEqual(['old', 'still']);
    expect(newestTake('other', [old])).toBeNull();
    const document = reelOf([{ source: { kind: 'shot', shot: 's' } }, { source: { kind: 'shot', shot: 'gone' } }]);
    expect(layFilm(document, [begun]).clips.map(({ source }) => source.fault)).toEqual(['unfinished', 'gone']);
  });

  it('of nothing has no frames; of plain and filmed clips it has the size of the project', () => {
    expect(lay().frames).toBe(0);
    const document = reelOf([{ source: { kind: 'plain' }, to: 24 }, { source: { kind: 'footage', asset: 'f' }, to: 9 }]);
    document.assets['f'] = footageAsset(9, 24);
    expect(layFilm(document, [])).toMatchObject({ frames: 33, size: { width: 1920, height: 1080 } });
  }); // prettier-ignore
});

describe('titles', () => {
  const reel = () => {
    const { reel } = reelOf([]);
    reel.titles['a'] = newTitle({ id: 'a', start: 5, length: 10, enter: 'fromLeft', enterFrames: 3, leave: 'cut' });
    return reel;
  };

  it('come and go', () => {
    const all = [4, 5, 6, 8, 14, 15].map((frame) => titlesAt(reel(), frame)[0]);
    expect(all.map((title) => title?.opacity ?? null)).toEqual([
      null,
      expect.closeTo(0.15625),
      expect.closeTo(0.5),
      1,
      1,
      null,
    ]);
    expect(all[1]!.shift[0]).toBeLessThan(-0.1);
    expect(all[3]!.shift).toEqual([expect.closeTo(0), expect.closeTo(0)]);
  });

  it('follow their keys on frames of the film', () => {
    const keyed = reel();
    keyed.tracks['reel/titles/a/x'] = [
      { frame: 8, value: 0, pace: 'linear' },
      { frame: 12, value: 1, pace: 'linear' },
    ];
    expect([8, 10, 12, 13].map((frame) => titlesAt(keyed, frame)[0]!.x)).toEqual([0, 0.5, 1, 1]);
  });
});
