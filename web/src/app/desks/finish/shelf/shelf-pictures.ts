import { hsl } from 'd3';
import sheet from './finishes.webp';
import told from './finishes.json';

/** Where pictures of the shelf lie on their sheet, and what colours they show. */
const places = new Map(told.finishes.map(({ name, color }, k) => [name, { k, color }]));
const ROWS = Math.ceil(told.finishes.length / told.across);

/** Styles that show the picture of a finish of the shelf. */
export function shelfPicture(name: string): Record<string, string> | null {
  const found = places.get(name);
  if (!found) return null;
  const [column, row] = [found.k % told.across, Math.floor(found.k / told.across)];
  return {
    'background-image': `url(${sheet})`,
    'background-size': `${told.across * 100}% ${ROWS * 100}%`,
    'background-position': `${(column / (told.across - 1)) * 100}% ${(row / (ROWS - 1)) * 100}%`,
  };
}

/** Colours by which the shelf is narrowed, with a patch that stands for each. */
export const SHELF_COLORS = {
  white: { label: 'White', patch: '#e8e6e1' },
  grey: { label: 'Grey', patch: '#85868a' },
  black: { label: 'Black', patch: '#17181a' },
  red: { label: 'Red', patch: '#c2402f' },
  brown: { label: 'Brown', patch: '#8a5a34' },
  yellow: { label: 'Yellow and gold', patch: '#d9a62c' },
  green: { label: 'Green', patch: '#4e8f63' },
  blue: { label: 'Blue', patch: '#2f6fa8' },
  violet: { label: 'Violet', patch: '#7b4a9c' },
} as const;
export type ShelfColor = keyof typeof SHELF_COLORS;

/** The colour that a picture of the shelf is of, by hue, strength and brightness of its block. */
export function shelfColor(name: string): ShelfColor | null {
  const found = places.get(name);
  if (!found) return null;
  const { h, s, l } = hsl(found.color);
  if (l < 0.16) return 'black';
  // How far the strongest channel stands over the weakest: near white and black a small step counts as strong otherwise.
  if (!(s * (1 - Math.abs(2 * l - 1)) > 0.07)) return l > 0.64 ? 'white' : l < 0.24 ? 'black' : 'grey';
  if (h < 14 || h >= 340) return 'red';
  if (h < 40) return l < 0.55 && s < 0.75 ? 'brown' : 'yellow';
  if (h < 66) return 'yellow';
  if (h < 170) return 'green';
  return h < 255 ? 'blue' : 'violet';
}
