import { unzipSync, zipSync } from 'fflate';
import { UserProblem } from '../document';
import type { SourceFile } from './sources';

/** What an archive may unfold to. */
export const ARCHIVE_LIMITS = { files: 2000, bytes: 2_000_000_000, ratio: 1000 } as const;

/**
 * The files of a zip archive, folders' names before theirs.
 * @throws UserProblem `file-broken`, or `file-too-large` where it would unfold beyond the limits
 */
export function unpackArchive(bytes: Uint8Array, name: string): SourceFile[] {
  let files = 0;
  let total = 0;
  const tooLarge = () =>
    new UserProblem(
      'file-too-large',
      `"${name}" would unfold to more than ${ARCHIVE_LIMITS.files} files or 2 GB. Unpack it yourself and drop the model with its textures.`,
      413,
    );
  let unpacked: Record<string, Uint8Array>;
  try {
    unpacked = unzipSync(bytes, {
      filter({ name: path, originalSize, size }) {
        if (path.endsWith('/') || /(^|\/)(\.[^./]|__MACOSX)/.test(path)) return false;
        files++;
        total += originalSize;
        // What shrinks more than a thousandfold is no model. Sizes are claims, but nothing is unfolded beyond them.
        const swollen = originalSize > 10_000_000 && originalSize > size * ARCHIVE_LIMITS.ratio;
        if (files > ARCHIVE_LIMITS.files || total > ARCHIVE_LIMITS.bytes || swollen) throw tooLarge();
        return true;
      },
    });
  } catch (error) {
    if (error instanceof UserProblem) throw error;
    throw new UserProblem(
      'file-broken',
      `"${name}" is a damaged archive and cannot be unpacked. Pack it again, or drop its files unpacked.`,
      422,
    );
  }
  return Object.entries(unpacked).map(([path, content]) => ({
    // Paths only tell files apart here; none is ever written.
    name: path
      .replaceAll('\\', '/')
      .split('/')
      .filter((step) => step && step !== '.' && step !== '..')
      .join('/')
      .slice(-200),
    bytes: content as Uint8Array<ArrayBuffer>,
  }));
}

/** A zip archive of files by their paths. */
export const packArchive = (files: Readonly<Record<string, Uint8Array>>): Uint8Array<ArrayBuffer> =>
  zipSync({ ...files }) as Uint8Array<ArrayBuffer>;
