import { describe, expect, it } from 'vitest';
import { FINISH_SHELF } from '@zippy/core/shelf';
import told from './finishes.json';
import { shelfColor, shelfPicture } from './shelf-pictures';

const all = FINISH_SHELF.flatMap(({ finishes }) => finishes);

async function digest(finish: object): Promise<string> {
  const bytes = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(JSON.stringify(finish)));
  return Array.from(new Uint8Array(bytes), (byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .slice(0, 12);
}

describe('pictures of the shelf', () => {
  it('are of the very finishes that are there: else they have to be rendered anew', async () => {
    expect(told.finishes.map(({ name }) => name)).toEqual(all.map(({ name }) => name));
    expect(told.finishes.map((each) => each.digest)).toEqual(await Promise.all(all.map(digest)));
  });

  it('stand on one sheet, each at a place of its own', () => {
    const places = all.map(({ name }) => shelfPicture(name)!['background-position']);
    expect(new Set(places).size).toBe(all.length);
    expect(shelfPicture('Nothing of the kind')).toBeNull();
  });

  it.each([
    ['Signal red', 'red'],
    ['Piano black', 'black'],
    ['Cobalt glass', 'blue'],
    ['Mint satin', 'green'],
    ['Plum velvet', 'violet'],
    ['Walnut', 'brown'],
  ])('tell colours: %s is %s', (name, color) => {
    expect(shelfColor(name)).toBe(color);
  });

  it('of every colour there are some', () => {
    const counts = new Map<string, number>();
    for (const { name } of all) counts.set(shelfColor(name)!, (counts.get(shelfColor(name)!) ?? 0) + 1);
    expect(counts.size).toBe(9);
    expect(Math.max(...counts.values())).toBeLessThan(all.length / 2);
  });
});
