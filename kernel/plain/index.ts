// The whole kernel without WebAssembly, to be tested and stepped through. Only where plugin.ts is at work.

import * as plain from '../assembly/index?plain';
import { scratchOf, type KernelExports } from '../host/kernel';
import { useMemory } from './machine';

/** Starts it on a memory, as a worker that no other kernel there is. */
export function startPlainKernel(memory: WebAssembly.Memory, worker: number): KernelExports {
  useMemory(memory);
  const kernel = plain as KernelExports;
  kernel.setScratch(scratchOf(worker), worker);
  return kernel;
}
