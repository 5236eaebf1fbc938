export { drawTitles, outlineKey, type TitleParts } from './drawTitles';
export { FALLBACK_FILES, FONTS } from './fonts';
export { GLYPH_UNITS, type TitleOutline } from './outline';
export { titlesAt, type ShownTitle } from './titleAt';
