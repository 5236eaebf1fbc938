/** Pictures that are brought. */
export const PICTURES = '.png,.jpg,.jpeg,.webp,.tif,.tiff,.avif,.gif,.tga,.exr,.hdr';
/** Films that are brought. */
export const FILMS = '.mp4,.m4v,.mov,.webm,.mkv,.avi,.mpg,.mpeg,.apng';

const ending = (endings: string) => new RegExp(`(${endings.replaceAll(',', '|').replaceAll('.', '\\.')})$`, 'i');
const FILM = ending(FILMS);
/** Kinds that hold one picture or many. */
const EITHER = /\.(gif|webp)$/i;

export const isFilm = ({ name }: { name: string }): boolean => FILM.test(name);
export const mayMove = (file: { name: string }): boolean => isFilm(file) || EITHER.test(file.name);

/** Numbered pictures from which on they are taken as the frames of one film. */
const LEAST_ROW = 8;

/** Pictures whose names are alike but for numbers that follow each other, in their order; others each for itself. */
export function pictureRows<F extends { name: string }>(files: readonly F[]): F[][] {
  const alike = new Map<string, { file: F; number: number }[]>();
  for (const file of files) {
    const [, before, digits, after] = /^(.*?)(\d+)(\D*)$/.exec(file.name) ?? [];
    const key = digits === undefined || mayMove(file) ? `/${alike.size}` : `${before}#${after}`;
    alike.set(key, [...(alike.get(key) ?? []), { file, number: Number(digits ?? 0) }]);
  }
  return [...alike.values()].flatMap((group) => {
    const sorted = group.toSorted((a, b) => a.number - b.number);
    const follows = sorted.every(({ number }, k) => k === 0 || number === sorted[k - 1]!.number + 1);
    const row = follows && sorted.length >= LEAST_ROW;
    return row ? [sorted.map(({ file }) => file)] : group.map(({ file }) => [file]);
  });
}
