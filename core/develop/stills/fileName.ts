/** What a file can be called by. */
export interface Named {
  project: string;
  shot: string;
  take: number;
  frame: number;
  /** Pixels. */
  width: number;
  height: number;
}

/** What stands in braces in a pattern, and what comes there. */
const WORDS: Readonly<Record<string, (named: Named) => string>> = {
  project: ({ project }) => project,
  shot: ({ shot }) => shot,
  take: ({ take }) => `take${String(take).padStart(2, '0')}`,
  frame: ({ frame }) => String(frame).padStart(4, '0'),
  size: ({ width, height }) => `${width}x${height}`,
};
export const NAME_WORDS = Object.keys(WORDS);
const STANDARD = '{project}_{shot}_{take}_{frame}';
const BRACES = /\{([^{}]*)\}/g;
/** Longest name without its extension, in characters: file systems take 255 bytes. */
const LONGEST = 120;

/**
 * Name of a file, without its extension, as a pattern says. Nothing in it can lead out of a folder, and no two frames of a take are
 * called the same: where the pattern does not say the frame, it is put behind.
 */
export function fileName(pattern: string, named: Named): string {
  const asked = pattern.trim() === '' ? STANDARD : pattern;
  const whole = asked.includes('{frame}') ? asked : `${asked}_{frame}`;
  const name = whole.replace(BRACES, (braces, word: string) =>
    Object.hasOwn(WORDS, word) ? WORDS[word]!(named) : braces,
  );
  const plain = name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^[.-]+/, '');
  const cut = [...plain];
  // What is too long loses its beginning: the frame mostly stands behind.
  return cut.slice(Math.max(0, cut.length - LONGEST)).join('') || WORDS['frame']!(named);
}

/** What is wrong with a pattern, as a sentence; null where nothing is. */
export function patternFault(pattern: string): string | null {
  const strange = [...pattern.matchAll(BRACES)].map(([, word]) => word!).find((word) => !Object.hasOwn(WORDS, word));
  return strange === undefined
    ? null
    : `{${strange}} stands for nothing. Use ${NAME_WORDS.map((word) => `{${word}}`).join(', ')}.`;
}
