import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { filterModel, INPUTS, LearnedFilter } from '@zippy/core/develop';

/**
 * The learned noise filter with its network ready to run.
 * @param threads that it works on
 * @returns null where the library that runs it is not there for this machine: the filter of our own does the work then
 */
async function open(threads: number): Promise<LearnedFilter | null> {
  try {
    const { InferenceSession, Tensor } = await import('onnxruntime-node');
    const weights = await readFile(createRequire(import.meta.url).resolve('@zippy/server/noise-filter.tza'));
    const session = await InferenceSession.create(filterModel(new Uint8Array(weights)), { intraOpNumThreads: threads });
    return new LearnedFilter({
      async run(planes, width, height) {
        const { filtered } = await session.run({ picture: new Tensor('float32', planes, [1, INPUTS, height, width]) });
        return filtered!.data as Float32Array;
      },
    });
  } catch (error) {
    console.warn('Noise is filtered without the learned filter:', error instanceof Error ? error.message : error);
    return null;
  }
}

/** Whether the library that runs it is installed. */
export function hasLearnedFilter(): boolean {
  try {
    return createRequire(import.meta.url).resolve('onnxruntime-node') !== '';
  } catch {
    return false;
  }
}

let opened: Promise<LearnedFilter | null> | undefined;

/** The filter, opened when it is first asked for. */
export const learnedFilter = (threads: number): Promise<LearnedFilter | null> => (opened ??= open(threads));
