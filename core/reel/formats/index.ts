import { av1 } from './av1';
import type { FilmFormat } from './format';
import { gif } from './gif';
import { hevc } from './hevc';
import { mp4 } from './mp4';
import { jpegZip, pngZip, poster, tiffZip } from './pictures';
import { prores422, prores422hq, prores4444 } from './prores';
import { spin } from './spin';
import { webm } from './webm';
import { webp } from './webp';

export { FILM_QUALITIES, type FilmFormat, type FilmQuality, type FilmSettings } from './format';

/** Every form in which a film is delivered, by what it is called in the database. */
export const FILM_FORMATS = {
  mp4,
  hevc,
  webm,
  av1,
  prores422,
  prores422hq,
  prores4444,
  gif,
  webp,
  'png-zip': pngZip,
  'jpeg-zip': jpegZip,
  'tiff-zip': tiffZip,
  poster,
  spin,
} satisfies Record<string, FilmFormat>;

export type FilmFormatName = keyof typeof FILM_FORMATS;
export const FILM_FORMAT_NAMES = Object.keys(FILM_FORMATS) as [FilmFormatName, ...FilmFormatName[]];
/** One of the forms, by its name. */
export const filmFormat = (name: FilmFormatName): FilmFormat => FILM_FORMATS[name];
