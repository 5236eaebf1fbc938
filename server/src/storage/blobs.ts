import { createHash, randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { pictureFiles, tracedFile, UserProblem, type Look, type ProjectDocument } from '@zippy/core/document';
import { MOST_FILE_BYTES } from '@zippy/core/intake';

const HASH = /^[0-9a-f]{64}$/;

/** Where a file lies in the folder of all. */
export const blobPath = (folder: string, hash: string): string => join(folder, hash.slice(0, 2), hash);

/** Files by content hash. A file is there whole or not at all. */
export class Blobs {
  /** @param most bytes of the largest file that is taken */
  constructor(
    readonly folder: string,
    private readonly most = MOST_FILE_BYTES,
  ) {}

  async prepare(): Promise<void> {
    await mkdir(join(this.folder, 'arriving'), { recursive: true });
    for (const left of await readdir(join(this.folder, 'arriving'))) await rm(join(this.folder, 'arriving', left));
  }

  /** Path of a stored file. @throws UserProblem where the text is no hash */
  path(hash: string): string {
    if (!HASH.test(hash)) throw new UserProblem('not-found', 'There is no such file.', 404);
    return blobPath(this.folder, hash);
  }

  /** Paths of a document's files: of models by their content hash, of all that is a picture as `pictureFiles` names it. @param traced those from which light is reckoned */
  assetPaths({ assets }: Pick<ProjectDocument, 'assets'>, traced = false): Record<string, string> {
    const models = Object.values(assets).filter(({ kind }) => kind === 'model');
    return Object.fromEntries([
      ...models.map(({ hash }) => [hash, this.path(hash)]),
      ...Object.entries(pictureFiles(assets)).map(([key, file]) => [
        key,
        this.path(traced ? tracedFile(file) : file.hash),
      ]),
    ]);
  }

  /** Path of a look's look-up table, null where it has none. @throws UserProblem `lookup-missing` */
  async lookupPath({ lookup }: Look): Promise<string | null> {
    if (lookup === null || (await this.has(lookup))) return lookup && this.path(lookup);
    throw new UserProblem(
      'lookup-missing',
      'The look-up table of this look is not here any more. Choose another one, or none.',
      404,
    );
  }

  async has(hash: string): Promise<boolean> {
    return access(this.path(hash)).then(
      () => true,
      () => false,
    );
  }

  /** Stores what a stream brings. @throws UserProblem `file-too-large` */
  async store(stream: Readable): Promise<{ hash: string; bytes: number }> {
    const part = join(this.folder, 'arriving', randomBytes(12).toString('hex'));
    const digest = createHash('sha256');
    const { most } = this;
    let bytes = 0;
    const measure = new Transform({
      transform(chunk: Buffer, _, done) {
        bytes += chunk.length;
        digest.update(chunk);
        if (bytes > most) {
          done(
            new UserProblem(
              'file-too-large',
              'The file is larger than the 1 GB that can be opened. Export fewer parts, or with less detail.',
              413,
            ),
          );
        } else done(null, chunk);
      },
    });
    try {
      await pipeline(stream, measure, createWriteStream(part, { flush: true }));
      const hash = digest.digest('hex');
      await mkdir(join(this.folder, hash.slice(0, 2)), { recursive: true });
      await rename(part, this.path(hash));
      return { hash, bytes };
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
  }
}
