export {
  FILM_FORMAT_NAMES,
  FILM_FORMATS,
  FILM_QUALITIES,
  filmFormat,
  type FilmFormatName,
  type FilmQuality,
  type FilmSettings,
} from './formats';
export { clipFrames, filmFrames } from './timeline';
