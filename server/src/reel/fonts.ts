import { createRequire } from 'node:module';
import { readFile } from 'node:fs/promises';
import bidiFactory from 'bidi-js';
import { create, type Font, type FontCollection } from 'fontkit';
import { UserProblem } from '@zippy/core/document';
import { FALLBACK_FILES, FONTS, GLYPH_UNITS, type TitleOutline } from '@zippy/core/reel';

const require = createRequire(import.meta.url);
const bidi = bidiFactory();

/** Fonts that are open, by their files: opening one takes longer than using it. */
const opened = new Map<string, Font>();
const MOST_OPEN = 60;
/** Signs of a text that are looked at. */
const MOST_LINES = 60;

/** @throws UserProblem `font-broken` */
export async function openFont(path: string, name: string): Promise<Font> {
  const known = opened.get(path);
  if (known) return known;
  const broken = new UserProblem('font-broken', `"${name}" cannot be read as a font. Bring a TTF, OTF, WOFF or WOFF2 file.`, 422); // prettier-ignore
  let font: Font;
  try {
    const file: Font | FontCollection = create(await readFile(path));
    font = 'fonts' in file ? file.fonts[0]! : file;
    // What is asked for first tells whether it holds outlines at all.
    if (!(font.unitsPerEm > 0) || !(font.numGlyphs > 0)) throw broken;
    font.layout('Ag').glyphs.forEach((glyph) => glyph.path.toSVG());
  } catch {
    throw broken;
  }
  if (opened.size >= MOST_OPEN) opened.delete(opened.keys().next().value!);
  opened.set(path, font);
  return font;
}

const shipped = (files: readonly string[]): Promise<Font[]> =>
  Promise.all(files.map((file) => openFont(require.resolve(file), file)));

/** The fonts that are asked for signs, one after another. @param own path of an own font file, or the name of one that is shipped */
async function fontsFor(own: { path: string; name: string } | { font: string }): Promise<Font[]> {
  if ('path' in own) return [await openFont(own.path, own.name)];
  return shipped((FONTS[own.font] ?? FONTS['hanken-bold']!).files);
}

interface Run {
  font: Font;
  text: string;
  rightToLeft: boolean;
}

/**
 * Words as outlines: shaped by the font's own rules, signs that it lacks taken from others, right-to-left scripts in their order.
 * @throws UserProblem `font-broken`
 */
export async function outlineWords(
  words: string,
  own: { path: string; name: string } | { font: string },
): Promise<TitleOutline> {
  const fonts = [...(await fontsFor(own)), ...(await shipped(FALLBACK_FILES))];
  const [main] = fonts as [Font];
  const missing = new Set<string>();
  const lines = words
    .split(/\r\n|[\n\r\u2028\u2029]/)
    .slice(0, MOST_LINES)
    .map((line) => outlineLine(line, fonts, missing));
  const em = main.unitsPerEm;
  return { lines, ascent: main.ascent / em, descent: Math.abs(main.descent) / em, missing: [...missing] };
}

function outlineLine(line: string, fonts: readonly Font[], missing: Set<string>): TitleOutline['lines'][number] {
  const glyphs: TitleOutline['lines'][number]['glyphs'] = [];
  let at = 0;
  for (const { font, text, rightToLeft } of runsOf(line, fonts, missing)) {
    const scale = 1 / font.unitsPerEm;
    const fine = GLYPH_UNITS * scale;
    const { glyphs: shaped, positions } = font.layout(text, undefined, undefined, undefined, rightToLeft ? 'rtl' : 'ltr');
    shaped.forEach((glyph, k) => {
      const { xAdvance, xOffset, yOffset } = positions[k]!;
      const path = glyph.path.scale(fine, -fine).translate(xOffset * fine, -yOffset * fine).toSVG();
      glyphs.push({ path, x: at });
      at += xAdvance * scale;
    });
  } // prettier-ignore
  return { glyphs, width: at };
}

/** Signs that stay with what they stand on, whatever font has them. */
const JOINED = /\p{M}|\u200d|\ufe0f/u;
const IGNORED = /[\p{Cc}\p{Cf}]/u;

/** Stretches of one font and one direction, from left to right as they are seen. */
function runsOf(line: string, fonts: readonly Font[], missing: Set<string>): Run[] {
  const { levels } = bidi.getEmbeddingLevels(line);
  const order = bidi.getReorderSegments(line, bidi.getEmbeddingLevels(line));
  const logical: (Run & { start: number })[] = [];
  let index = 0;
  for (const sign of line) {
    const level = levels[index] ?? 0;
    const rightToLeft = level % 2 === 1;
    const before = logical.at(-1);
    const code = sign.codePointAt(0)!;
    const stays = before && JOINED.test(sign) ? before.font : null;
    const font = stays ?? fonts.find((each) => each.hasGlyphForCodePoint(code));
    if (!font && !IGNORED.test(sign)) missing.add(sign);
    const used = font ?? before?.font ?? fonts[0]!;
    // A sign that no font has is seen as the box that the font has for that.
    if (!IGNORED.test(sign) || font) {
      if (before && before.font === used && before.rightToLeft === rightToLeft) before.text += sign;
      else logical.push({ font: used, text: sign, rightToLeft, start: index });
    }
    index += sign.length;
  }
  return visual(logical, order);
}

/** Runs in the order in which they are seen. */
function visual(runs: (Run & { start: number })[], flips: readonly number[][]): Run[] {
  const places = new Map<number, number>();
  const length = runs.reduce((most, { start, text }) => Math.max(most, start + text.length), 0);
  const order = Array.from({ length }, (_, k) => k);
  for (const [from = 0, to = 0] of flips) {
    const part = order.slice(from, to + 1).reverse();
    order.splice(from, part.length, ...part);
  }
  order.forEach((index, place) => places.set(index, place));
  const placeOf = ({ start, text }: { start: number; text: string }) =>
    Math.min(...Array.from({ length: text.length }, (_, k) => places.get(start + k) ?? start + k));
  return [...runs].sort((a, b) => placeOf(a) - placeOf(b));
}
