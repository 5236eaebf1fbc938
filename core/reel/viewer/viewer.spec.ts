import { describe, expect, it } from 'vitest';
import { layFilm } from '../film';
import { reelOf, reelTake } from '../testing/reels';
import { spinEnd, spinHead, spinPicture } from './page';
import { spinOrder, spinRows } from './spinFrames';

describe('a spin viewer', () => {
  it('has a row for each clip, whose last picture is not its first again', () => {
    const film = layFilm(reelOf([{ to: 8 }, { to: 3 }]), [reelTake()]);
    expect(spinRows(film, 4)).toEqual([
      [1, 3, 5, 7],
      [9, 10, 11],
    ]);
  });

  it('brings first what is farthest from all that has come', () => {
    const order = spinOrder([[10, 11, 12, 13, 14, 15]]);
    expect(order.map(({ column }) => column)).toEqual([0, 4, 2, 1, 3, 5]);
    expect(order.every(({ column, frame }) => frame === 10 + column)).toBe(true);
  });

  it('names nothing outside of itself, and takes a title for words', () => {
    const page = spinHead({ title: '</title><script>x()"', width: 96, height: 54, rows: [2], ground: null }) + spinPicture(0, 0, 'data:image/webp;base64,AA') + spinEnd(); // prettier-ignore
    expect(page).not.toMatch(/(src|href)=|url\(|@import|https?:/);
    expect(page).not.toContain('<script>x()');
  });
});
