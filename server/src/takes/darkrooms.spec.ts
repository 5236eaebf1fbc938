import { describe, expect, it } from 'vitest';
import type { DevelopRequest } from '../workers/developWorker';
import { Darkrooms } from './darkrooms';

describe('frames to develop', () => {
  it('go in the newest first, so many at once; what nobody waits for is left out, and a failure holds nothing up', async () => {
    const begun: number[] = [];
    const ends = new Map<number, (failed: boolean) => void>();
    const rooms = new Darkrooms(({ frame }) => {
      begun.push(frame);
      return new Promise((resolve) =>
        ends.set(frame, (failed) =>
          resolve(
            failed
              ? { problem: { code: 'exr-broken', message: 'Damaged.', status: 422 } }
              : { result: { files: [{ layer: '', bytes: new Uint8Array([frame]) }], range: null } },
          ),
        ),
      );
    }, 2);
    const ask = (frame: number, signal?: AbortSignal) => rooms.develop({ frame } as DevelopRequest, signal);
    const left = new AbortController();
    const answers = [ask(1), ask(2), ask(3, left.signal), ask(4), ask(5)];
    const told = Promise.allSettled(answers);
    expect(begun).toEqual([1, 2]);
    left.abort();
    ends.get(1)!(true);
    await answers[0]!.catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve));
    expect(begun).toEqual([1, 2, 5]);
    ends.get(5)!(false);
    ends.get(2)!(false);
    await answers[1];
    await new Promise((resolve) => setTimeout(resolve));
    expect(begun).toEqual([1, 2, 5, 4]);
    ends.get(4)!(false);
    expect((await told).map(({ status }) => status)).toEqual([
      'rejected',
      'fulfilled',
      'rejected',
      'fulfilled',
      'fulfilled',
    ]);
  });
});
