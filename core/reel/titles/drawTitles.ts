import { hexFromLinear } from '../../optics';
import type { Size } from '../compose/place';
import { GLYPH_UNITS, type TitleOutline } from './outline';
import type { ShownTitle } from './titleAt';

/** What titles are drawn of. */
export interface TitleParts {
  /** Outlines by what `outlineKey` gives; those that are not known yet are left out. */
  outline(title: Pick<ShownTitle, 'words' | 'font'>): TitleOutline | null;
  /** Where the picture of an asset is. */
  picture(asset: string): string | null;
}

/** What an outline depends on. */
export const outlineKey = ({ words, font }: { words: string; font: string }): string => `${font}\n${words}`;

/**
 * Titles as a drawing of the film's size. Letters are outlines, so that every program draws the same; it is the same drawing in the
 * page and in the film.
 * @param film its own size: in another shape words take no more of the width than they do there
 * @returns SVG, or an empty text where there is nothing to see
 */
export function drawTitles(titles: readonly ShownTitle[], size: Size, parts: TitleParts, film: Size = size): string {
  const unit = Math.min(size.height, (size.width * film.height) / film.width);
  const drawn = titles.map((title) => drawTitle(title, size, unit, parts)).join('');
  if (drawn === '') return '';
  const { width, height } = size;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${drawn}</svg>`;
}

const round = (value: number): number => Math.round(value * 1e4) / 1e4;
const SHARES = { left: 0, middle: 0.5, right: 1, top: 0, bottom: 1 } as const;

/** @param unit pixels of what sizes are parts of */
function drawTitle(title: ShownTitle, { width, height }: Size, unit: number, parts: TitleParts): string {
  const em = title.size * unit;
  const [x, y] = [title.x * width + title.shift[0] * unit, title.y * height + title.shift[1] * unit];
  const degrees = round((-title.turn * 180) / Math.PI);
  const inner = title.picture === null ? letters(title, parts.outline(title)) : picture(title, parts);
  if (inner === '') return '';
  const place = `translate(${round(x)} ${round(y)}) rotate(${degrees}) scale(${round(em)})`;
  return `<g data-title="${title.id}" transform="${place}" opacity="${round(title.opacity)}">${inner}</g>`;
}

function letters(title: ShownTitle, outline: TitleOutline | null): string {
  if (!outline) return '';
  const { spacing, lineHeight, align, stand } = title;
  const { lines, ascent, descent } = outline;
  const tall = ascent + descent + (lines.length - 1) * lineHeight;
  const top = ascent - SHARES[stand] * tall;
  const wide = ({ glyphs, width }: TitleOutline['lines'][number]) => width + Math.max(0, glyphs.length - 1) * spacing;
  const paths = lines.flatMap((each, line) => {
    const { glyphs } = each;
    const left = -SHARES[align] * wide(each);
    return glyphs
      .map(({ path, x }, k) => ({ path, x: round(left + x + k * spacing), y: round(top + line * lineHeight) }))
      .filter(({ path }) => path !== '');
  });
  const shapes = paths
    .map(({ path, x, y }) => `<path transform="translate(${x} ${y}) scale(${1 / GLYPH_UNITS})" d="${path}"/>`)
    .join('');
  if (shapes === '') return '';
  const around =
    title.outline > 0
      ? `<g fill="none" stroke="${hexFromLinear(title.outlineColor)}" stroke-width="${round(2 * title.outline * GLYPH_UNITS)}" stroke-linejoin="round">${shapes}</g>`
      : '';
  const widest = Math.max(...lines.map(wide));
  // Nothing to see: what can be held of the words, their gaps too.
  const held = `<rect x="${round(-SHARES[align] * widest)}" y="${round(top - ascent)}" width="${round(Math.max(0, widest))}" height="${round(tall)}" fill="none"/>`;
  return `${held}${around}<g fill="${hexFromLinear(title.color)}">${shapes}</g>`;
}

/** Room beside a picture, whose shape the drawing need not know. */
const WIDE = 40;

function picture({ picture: asset, align, stand }: ShownTitle, parts: TitleParts): string {
  const address = asset === null ? null : parts.picture(asset);
  if (address === null) return '';
  const keeps = { left: 'xMin', middle: 'xMid', right: 'xMax' }[align];
  const [x, y] = [-SHARES[align] * WIDE, -SHARES[stand]];
  return `<image href="${address}" x="${x}" y="${y}" width="${WIDE}" height="1" preserveAspectRatio="${keeps}YMid meet"/>`;
}
