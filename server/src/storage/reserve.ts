import { open, rm, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { errorCode } from './errorCode';

/** Bytes kept back: the database needs a little room to delete anything, and to open. */
const RESERVED = 4_000_000;
/** Free bytes from which on the reserve is made again. */
const ENOUGH = 3 * RESERVED;
const AGAIN = 60_000;

export const isDiskFull = (error: unknown): boolean => ['ENOSPC', 'SQLITE_FULL'].includes(errorCode(error) ?? '');

/** A file of nothing that is given up when the disk is full, so that there is room to make room. */
export class Reserve {
  private readonly path: string;
  private readonly timer: NodeJS.Timeout;

  constructor(private readonly folder: string) {
    this.path = join(folder, 'reserve');
    this.timer = setInterval(() => void this.keep(), AGAIN);
    this.timer.unref();
  }

  /** Runs what makes room, or must run in any case; where the disk is full, once more with the reserve given up. */
  async spend<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (error) {
      if (!isDiskFull(error) && errorCode(error) !== 'SQLITE_IOERR_SHMSIZE' && errorCode(error) !== 'SQLITE_CANTOPEN')
        throw error;
      await rm(this.path, { force: true });
      return work();
    }
  }

  /** Sets the reserve aside where there is plenty of room. */
  async keep(): Promise<void> {
    try {
      if ((await stat(this.path).catch(() => null))?.size === RESERVED) return;
      const { bavail, bsize } = await statfs(this.folder);
      if (bavail * bsize < ENOUGH) return;
      const file = await open(this.path, 'w');
      try {
        // Written, not only claimed: a hole in a file reserves nothing.
        await file.writeFile(Buffer.alloc(RESERVED));
      } finally {
        await file.close();
      }
    } catch {
      await rm(this.path, { force: true }).catch(() => undefined);
    }
  }

  close(): void {
    clearInterval(this.timer);
  }
}
