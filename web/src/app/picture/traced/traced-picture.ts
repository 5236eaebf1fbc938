import { Injectable, signal } from '@angular/core';
import { createKernelMemory } from '@zippy/kernel/host';
import singleUrl from '@zippy/kernel/kernel.single.wasm';
import kernelUrl from '@zippy/kernel/kernel.wasm';
import { proxy, transfer, wrap, type Remote } from 'comlink';
import type { TracedAnswer, TracedRequest } from './messages';
import type { TilesThread } from './tiles.worker';
import type { TracerThread } from './tracer.worker';

/** Samples at which the picture in the page counts as finished. */
const SAMPLES = 512;

/** The picture as the tracer sees it, refined in the page by the kernel in web workers on shared memory. */
@Injectable({ providedIn: 'root' })
export class TracedPicture {
  /** The newest picture of what was asked for last; null before there is one. */
  readonly answer = signal<TracedAnswer | null>(null);
  readonly failure = signal<string | null>(null);
  /** The newest wish has no picture yet: nothing else shall keep the machine busy. */
  readonly awaited = signal(false);
  private tracer: Promise<Remote<TracerThread>> | null = null;
  private id = 0;
  private asked = 0;

  show(request: Omit<TracedRequest, 'id' | 'samples'>): void {
    this.id++;
    this.asked = performance.now();
    this.awaited.set(true);
    this.failure.set(null);
    this.send({ ...request, id: this.id, samples: SAMPLES });
  }

  stop(): void {
    this.id++;
    this.answer.set(null);
    this.awaited.set(false);
    if (this.tracer) this.send(null);
  }

  private send(request: TracedRequest | null): void {
    this.tracer ??= this.begin();
    this.tracer
      .then((tracer) => tracer.show(request))
      .catch((error: unknown) => {
        this.tracer = null;
        this.awaited.set(false);
        this.failure.set(error instanceof Error ? error.message : String(error));
      });
  }

  private async begin(): Promise<Remote<TracerThread>> {
    const worker = new Worker(new URL('./tracer.worker', import.meta.url), { type: 'module' });
    // Memory is shared on https and on this machine's own address only; elsewhere one worker does it all.
    const shared = crossOriginIsolated;
    const module = await WebAssembly.compileStreaming(fetch(shared ? kernelUrl : singleUrl));
    const memory = shared ? createKernelMemory() : null;
    // One core stays free for the page.
    const count = shared ? Math.max(1, Math.min(16, navigator.hardwareConcurrency - 1)) : 0;
    const tiles = Array.from({ length: count }, (_, k) => {
      const { port1, port2 } = new MessageChannel();
      const worker = new Worker(new URL('./tiles.worker', import.meta.url), { type: 'module' });
      void wrap<TilesThread>(worker).begin(module, memory!, k + 1, transfer(port1, [port1]));
      return port2;
    });
    worker.onerror = ({ message }) => {
      this.awaited.set(false);
      this.failure.set(`The traced picture stopped: ${message}`);
    };
    const tracer = wrap<TracerThread>(worker);
    await tracer.begin(transfer({ module, memory, tiles }, tiles), proxy(this.answered));
    return tracer;
  }

  private readonly answered = (answer: TracedAnswer): void => {
    if (answer.id !== this.id) return;
    this.awaited.set(false);
    if (answer.failure !== undefined) this.failure.set(answer.failure);
    else this.answer.set({ ...answer, milliseconds: performance.now() - this.asked });
  };
}
