/** A font that comes along. */
interface ShippedFont {
  title: string;
  /** Files of its package, the first that has a sign is taken. */
  files: readonly string[];
}

const files = (family: string, weight: number, sets: readonly string[]): string[] =>
  sets.map((set) => `@fontsource/${family}/files/${family}-${set}-${weight}-normal.woff`);
const LATIN = ['latin', 'latin-ext'];
const EUROPE = [...LATIN, 'cyrillic', 'cyrillic-ext', 'greek', 'greek-ext', 'vietnamese'];

/** Fonts for titles, by their names in the document. */
export const FONTS: Readonly<Record<string, ShippedFont>> = {
  hanken: { title: 'Hanken Grotesk', files: files('hanken-grotesk', 400, [...LATIN, 'cyrillic-ext', 'vietnamese']) },
  'hanken-bold': {
    title: 'Hanken Grotesk, bold',
    files: files('hanken-grotesk', 700, [...LATIN, 'cyrillic-ext', 'vietnamese']),
  },
  barlow: {
    title: 'Barlow Condensed',
    files: files('barlow-condensed', 500, [...LATIN, 'vietnamese']),
  },
  'barlow-bold': {
    title: 'Barlow Condensed, bold',
    files: files('barlow-condensed', 700, [...LATIN, 'vietnamese']),
  },
  syne: { title: 'Syne, wide', files: files('syne', 800, [...LATIN, 'greek']) },
  instrument: { title: 'Instrument Serif', files: files('instrument-serif', 400, LATIN) },
  mono: { title: 'JetBrains Mono', files: files('jetbrains-mono', 400, EUROPE) },
};

/** Asked in this order for signs that a font does not have. */
export const FALLBACK_FILES: readonly string[] = [
  ...files('noto-sans', 400, EUROPE),
  ...files('noto-sans-arabic', 400, ['arabic']),
  ...files('noto-sans-hebrew', 400, ['hebrew']),
  ...files('noto-sans-thai', 400, ['thai']),
  ...files('noto-sans-devanagari', 400, ['devanagari']),
  ...files('noto-sans-symbols', 400, ['symbols']),
  ...files('noto-sans-symbols-2', 400, ['symbols']),
];
