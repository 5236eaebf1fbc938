import { Worker, type WorkerOptions } from 'node:worker_threads';

const fromSource = import.meta.url.endsWith('.ts');

/** File of a worker that stands beside this one: the bundle in production, the source in development and tests. */
export function workerFile(name: string): { file: URL; data: object } {
  if (!fromSource) return { file: new URL(`./${name}.js`, import.meta.url), data: {} };
  return {
    file: new URL('./fromSource.mjs', import.meta.url),
    data: { entry: new URL(`./${name}.ts`, import.meta.url).href },
  };
}

/** Starts a worker thread by the name of its file in this folder. */
export function startWorker(name: string, data: object, options: WorkerOptions = {}): Worker {
  const { file, data: own } = workerFile(name);
  return new Worker(file, { ...options, workerData: { ...own, ...data } });
}
