// Starts a worker from TypeScript source; only development and tests come this way.
import { workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
// The pool hands its workers a pair of its own data and ours.
const { entry } = Array.isArray(workerData) ? workerData.find((each) => each?.entry) : workerData;
const module = await import(entry);
export default module.default;
