// Ends the process it runs in when the one that started it is gone: a process that is kept busy without an end hears of nothing.
import { workerData } from 'node:worker_threads';

const { parent } = workerData as { parent: number };
/** Milliseconds between looks. */
const LOOK = 1000;
setInterval(() => {
  if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL');
}, LOOK);
