import { gif } from './gif';
import type { FilmFormat } from './format';
import { mp4 } from './mp4';
import { pngZip } from './pngZip';

export { FILM_QUALITIES, type FilmFormat, type FilmQuality, type FilmSettings } from './format';

/** Every form in which a film is delivered, by what it is called in the database. */
export const FILM_FORMATS = { mp4, gif, 'png-zip': pngZip } satisfies Record<string, FilmFormat>;

export type FilmFormatName = keyof typeof FILM_FORMATS;
export const FILM_FORMAT_NAMES = Object.keys(FILM_FORMATS) as [FilmFormatName, ...FilmFormatName[]];
/** One of the forms, by its name. */
export const filmFormat = (name: FilmFormatName): FilmFormat => FILM_FORMATS[name];
