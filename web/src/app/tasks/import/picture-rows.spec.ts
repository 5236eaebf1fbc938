import { describe, expect, it } from 'vitest';
import { isFilm, mayMove, pictureRows } from './picture-rows';

const rows = (names: string[]) =>
  pictureRows(names.map((name) => ({ name }))).map((row) => row.map(({ name }) => name));
const numbered = (from: number, to: number, name = (k: number) => `turn.${String(k).padStart(4, '0')}.png`) =>
  Array.from({ length: to - from + 1 }, (_, k) => name(from + k));

describe('pictures that are brought together', () => {
  it('are one film where their numbers follow each other, in whatever order they come', () => {
    const names = numbered(98, 112);
    expect(rows(names.toReversed())).toEqual([names]);
    expect(rows(numbered(9, 17, (k) => `a${k}.jpg`))[0]).toHaveLength(9);
  });

  it('stay apart where there are few, one is missing, or their names differ', () => {
    expect(rows(['wood_1.png', 'wood_2.png', 'wood_3.png'])).toHaveLength(3);
    expect(rows(numbered(1, 20).filter((name) => !name.includes('0007')))).toHaveLength(19);
    expect(rows(numbered(1, 8, (k) => `${'abcdefgh'[k - 1]}${k}.png`))).toHaveLength(8);
    expect(rows(numbered(1, 8, (k) => `clip${k}.gif`))).toHaveLength(8);
    expect(rows(['plain.png', 'other.png'])).toEqual([['plain.png'], ['other.png']]);
  });

  it('are told from films by their names', () => {
    expect(['a.mp4', 'b.MOV', 'c.webm', 'd.png', 'e.gif', 'mp4'].map((name) => isFilm({ name }))).toEqual([true, true, true, false, false, false]); // prettier-ignore
    expect(['e.gif', 'f.WEBP', 'g.png'].map((name) => mayMove({ name }))).toEqual([true, true, false]);
  });
});
