import { stat } from 'node:fs/promises';
import type { NormalPicture } from './picture';
import type { TitleOutline } from '@zippy/core/reel';
import type { FileTask, Fonts, LookedInto } from '../workers/fileWorker';
import { GuardedPool } from '../workers/guardedPool';

const GUARDS = { threads: 2, seconds: 30, megabytes: 3072 };
/** What sound files take at most, several times over: some 0.2 s a megabyte. */
const SECONDS = { least: 3, perMegabyte: 1, most: 60 };

/** Looks into files that people bring besides models, in threads that can be ended. */
export class Files {
  private readonly pool = new GuardedPool<FileTask>('fileWorker', GUARDS);

  /** @throws UserProblem `surroundings-broken` or `file-endless` */
  surroundings(path: string, name: string): Promise<{ width: number; height: number; clipped: number }> {
    return this.read({ kind: 'surroundings', path, name });
  }

  /** The picture as it is kept. @throws UserProblem `picture-broken` or `file-endless` */
  picture(path: string, name: string): Promise<NormalPicture> {
    return this.read({ kind: 'picture', path, name });
  }

  /** @throws UserProblem `lookup-broken` or `file-endless` */
  async lookup(path: string, name: string): Promise<void> {
    await this.read({ kind: 'lookup', path, name });
  }

  /** Words as outlines. @throws UserProblem `font-broken` or `file-endless` */
  outline(words: string, font: Fonts): Promise<TitleOutline> {
    return this.pool.run({ kind: 'outline', words, font }, 'The title', SECONDS.least);
  }

  /** How a font calls itself. @throws UserProblem `font-broken` or `file-endless` */
  font(path: string, name: string): Promise<{ name: string }> {
    return this.read({ kind: 'font', path, name });
  }

  private async read<R>(task: LookedInto): Promise<R> {
    const { size } = await stat(task.path);
    const { least, perMegabyte, most } = SECONDS;
    // A picture may be packed a hundredfold.
    const seconds = task.kind === 'picture' ? GUARDS.seconds : Math.min(most, least + (perMegabyte * size) / 1e6);
    return this.pool.run<R>(task, `"${task.name}"`, seconds);
  }

  close(): Promise<void> {
    return this.pool.close();
  }
}
