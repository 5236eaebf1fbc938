import Database from 'better-sqlite3';
import { join } from 'node:path';
import { UserProblem } from '@zippy/core/document';

/**
 * Takes a data folder for this process alone. The lock is one of the system's on a file, which ends with the process however that ends.
 * @returns gives it free again
 * @throws UserProblem `folder-in-use`
 */
export function lockFolder(folder: string): () => void {
  const lock = new Database(join(folder, 'lock'), { timeout: 0 });
  try {
    // Held open, never written: a full disk does not matter.
    lock.pragma('journal_mode = MEMORY');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
    throw new UserProblem(
      'folder-in-use',
      `Another Zippy Reel works on the folder ${folder}. Use that one, end it first, or set ZIPPY_DATA to another folder.`,
      409,
    );
  }
  return () => lock.close();
}
