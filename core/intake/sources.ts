/** Files that hold finishes and no shape. */
export const isFinishFile = (name: string): boolean => /\.mtlx$/i.test(name);

/** A file that came with others. */
export interface SourceFile {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
}

export const PICTURE_ENDINGS = ['png', 'jpg', 'jpeg', 'webp', 'tif', 'tiff', 'avif', 'gif', 'bmp', 'tga', 'ktx2'];
const PICTURE = new RegExp(`\\.(${PICTURE_ENDINGS.join('|')})$`, 'i');
/** What a model of a format may name besides itself. */
const COMPANIONS: [RegExp, RegExp][] = [
  [/\.obj$/i, /\.mtl$/i],
  [/\.gltf$/i, /\.bin$/i],
  [/\.mtlx$/i, /\.(exr|hdr)$/i],
];

export const isPictureName = (name: string): boolean => PICTURE.test(name);

/**
 * Sorts files that were dropped together into models with what each may need; pictures on their own come back apart.
 * @returns for each model its position and those of its companions
 */
export function groupFiles(names: readonly string[]): {
  models: { file: number; companions: number[] }[];
  pictures: number[];
} {
  const positions = names.map((_, k) => k);
  const takesPictures = (name: string) => /\.(obj|gltf|fbx|dae|3mf|mtlx)$/i.test(name);
  const kept = new Set<number>();
  const models = positions
    .filter((k) => !isPictureName(names[k]!) && !COMPANIONS.some(([, wanted]) => wanted.test(names[k]!)))
    .map((file) => {
      const wanted = COMPANIONS.find(([model]) => model.test(names[file]!))?.[1];
      const companions = positions.filter(
        (k) => k !== file && (wanted?.test(names[k]!) || (takesPictures(names[file]!) && isPictureName(names[k]!))),
      );
      for (const each of companions) kept.add(each);
      return { file, companions };
    });
  return { models, pictures: positions.filter((k) => isPictureName(names[k]!) && !kept.has(k)) };
}

/** The companion a file names by a path: by its whole path where that fits, else by the last part of it. */
export function findCompanion<T extends { name: string }>(companions: readonly T[], path: string): T | undefined {
  const plain = (text: string) => text.replaceAll('\\', '/').replace(/^\.\//, '').toLowerCase();
  const last = (text: string) => plain(text).replace(/^.*\//, '');
  return (
    companions.find(({ name }) => plain(name) === plain(path)) ??
    companions.find(({ name }) => last(name) === last(path))
  );
}
