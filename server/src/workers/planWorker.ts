// Names the frames of one take, and ends.
import { parentPort, workerData } from 'node:worker_threads';
import type { PlanAnswer } from '@zippy/core/wire';
import { planHere, type PlanRequest } from '../takes/planner';

const tell = (answer: PlanAnswer) => parentPort!.postMessage(answer);
const request = workerData as Omit<PlanRequest, 'frames'> & { frames: number[] | null };
try {
  if (request.frames === null) tell({ loops: await planHere.loops(request) });
  else
    await planHere.plan({ ...request, frames: request.frames }, (names) => {
      tell({ names });
      return true;
    });
  tell({ end: true });
} catch (error) {
  tell({ failure: error instanceof Error ? error.message : String(error) });
}
