/** Units of a letter's outline in its height: fine enough for two decimals. */
export const GLYPH_UNITS = 1000;

/** Words as outlines, in parts of the letters' height: x to the right, y down from the base line. */
export interface TitleOutline {
  lines: {
    /** From left to right as they are seen; their paths in `GLYPH_UNITS`. */
    glyphs: { path: string; x: number }[];
    width: number;
  }[];
  ascent: number;
  descent: number;
  /** Signs that no font here has. */
  missing: string[];
}
