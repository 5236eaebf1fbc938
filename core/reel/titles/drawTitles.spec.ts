import { describe, expect, it } from 'vitest';
import { newTitle } from '../../document';
import { drawTitles, type TitleParts } from './drawTitles';
import type { ShownTitle } from './titleAt';

const outline = {
  lines: [{ glyphs: [{ path: 'M0 0h1v1z', x: 0 }, { path: '', x: 0.6 }, { path: 'M0 0h2v2z', x: 0.8 }], width: 1.4 }],
  ascent: 0.8,
  descent: 0.2,
  missing: [],
}; // prettier-ignore
const parts: TitleParts = { outline: () => outline, picture: (asset) => (asset === 'gone' ? null : `/blobs/${asset}`) };
const size = { width: 1000, height: 500 };
const shown = (over: Partial<ShownTitle>): ShownTitle => ({
  ...newTitle({ x: 0.5, y: 0.5, size: 0.1 }),
  shift: [0, 0],
  ...over,
});

describe('titles are drawn', () => {
  it('at their place in the size of the film, letter by letter, and spaces as none', () => {
    const drawn = drawTitles([shown({})], size, parts);
    expect(drawn).toContain('viewBox="0 0 1000 500"');
    expect(drawn).toContain('translate(500 250) rotate(0) scale(50)');
    expect(drawn.match(/<path/g)).toHaveLength(2);
    // In the middle: half of its width to the left, its line between rise and fall.
    expect(drawn).toContain('translate(-0.7 0.3) scale(0.001)');
  });

  it('with letters apart, lines of their own and a line around them', () => {
    const drawn = drawTitles([shown({ spacing: 0.5, align: 'left', outline: 0.02, color: [1, 0, 0] })], size, parts);
    expect(drawn).toContain('translate(1.8 0.3)');
    expect(drawn).toContain('stroke-width="40"');
    expect(drawn).toContain('fill="#ff0000"');
    expect(drawn.match(/<path/g)).toHaveLength(4);
  });

  it('in another shape no wider than in the film’s own', () => {
    const upright = drawTitles([shown({})], { width: 500, height: 1000 }, parts, size);
    expect(upright).toContain('translate(250 500) rotate(0) scale(25)');
  });

  it('or as a picture; of what is gone nothing is drawn', () => {
    expect(drawTitles([shown({ picture: 'logo', align: 'right' })], size, parts)).toContain('href="/blobs/logo"');
    expect(drawTitles([shown({ picture: 'gone' })], size, parts)).toBe('');
    expect(drawTitles([shown({})], size, { ...parts, outline: () => null })).toBe('');
  });
});
