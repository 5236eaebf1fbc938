import type { FilmFormat } from './format';

export const spin: FilmFormat = {
  title: 'Spin viewer',
  says: 'A page that turns the product as one drags; each clip is a row, the lowest first.',
  extension: 'html',
  mediaType: 'text/html',
  plays: false,
  hasQuality: true,
  hasColors: false,
  sounds: false,
  leastSide: 16,
  bits: 8,
  alpha: true,
  plan: { by: 'viewer' },
};
