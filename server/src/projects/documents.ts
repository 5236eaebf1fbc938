import { GuardedPool } from '../workers/guardedPool';
import { directly, type DocumentTask, type DocumentText, type DocumentWork } from './documentWork';

const GUARDS = { threads: 2, seconds: 30, megabytes: 2048 };
/** Characters up to which a document is worked on at once: it takes less than it takes to send it away. */
const SMALL = 100_000;

/** Work on documents: small ones here, others in threads that can be ended. */
export class Documents implements DocumentWork {
  private readonly pool = new GuardedPool<DocumentTask>('documentWorker', GUARDS);

  run(task: DocumentTask): Promise<DocumentText> {
    const patches = task.kind === 'edit' ? task.patches.length : 0;
    // What comes from outside as a whole is never trusted to be quick.
    const small = task.kind !== 'create' && task.text.length + patches < SMALL;
    return small ? directly.run(task) : this.pool.run(task, 'The project');
  }

  close(): Promise<void> {
    return this.pool.close();
  }
}
