export { CHANGES, changeKind, type Mask } from './changes';
export { fill, giveWay, layOver, mixShares, putInto, veil, type Pixels } from './compose/mix';
export { placeIn, type Place, type Size } from './compose/place';
export { deliveredFrames, deliveredSize, deliveryFor, deliverySchema, USES, type Delivery, type Use } from './delivery';
export { slipClip, splitClip, trimClip } from './edits';
export { readOtio, type ReadTimeline } from './exchange/readOtio';
export { writeOtio } from './exchange/writeOtio';
export { filmPicture, layFilm, type Film, type FilmPicture, type LaidClip } from './film';
export {
  FILM_FORMAT_NAMES,
  FILM_FORMATS,
  FILM_QUALITIES,
  filmFormat,
  type FilmFormatName,
  type FilmQuality,
  type FilmSettings,
} from './formats';
export { gainAt, heardSounds, mixArguments, type HeardSound } from './sound/mix';
export { clipFrames, newestTake, type ClipFrames, type ReelTake } from './sources';
export type { SourceShare } from './timing';
export {
  drawTitles,
  FALLBACK_FILES,
  FONTS,
  GLYPH_UNITS,
  outlineKey,
  titlesAt,
  type ShownTitle,
  type TitleOutline,
  type TitleParts,
} from './titles';
export { spinOrder, spinRows, type SpinPicture } from './viewer/spinFrames';
export { spinEnd, spinHead, spinPicture } from './viewer/page';
