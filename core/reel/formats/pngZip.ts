import type { FilmFormat } from './format';

/** Numbered pictures, packed. */
export const pngZip: FilmFormat = {
  title: 'PNG frames',
  name: 'PNG frames (zip)',
  extension: 'zip',
  mediaType: 'application/zip',
  plays: false,
  hasQuality: false,
  bits: 8,
  alpha: true,
  encode: null,
};
