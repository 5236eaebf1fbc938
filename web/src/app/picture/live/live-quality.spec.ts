import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LiveQuality } from './live-quality';

let quality: LiveQuality;
const again = vi.fn();

beforeEach(() => {
  vi.useFakeTimers();
  again.mockReset();
  quality = new LiveQuality(false, again);
});
afterEach(() => vi.useRealTimers());

/** Frames so far apart, while something moves. */
function move(frames: number, apart: number): void {
  for (let k = 0; k < frames; k++) {
    quality.touch();
    quality.drawn(k * apart);
  }
}

describe('the fineness of the sketch', () => {
  it('stays where the machine keeps up', () => {
    const first = quality.present;
    move(50, 16);
    expect(quality.present).toEqual(first);
  });

  it('goes down while frames come late, never up while something moves, and up once it rests', () => {
    const first = quality.present;
    move(60, 80);
    const low = quality.present;
    expect(low.scale).toBeLessThan(first.scale);
    expect(low.shadowTaps).toBe(0);
    move(60, 10);
    expect(quality.present).toEqual(low);
    vi.advanceTimersByTime(1000);
    expect(again).toHaveBeenCalledTimes(1);
    expect(quality.present).toEqual(first);
    // It is known for the next time.
    quality.touch();
    expect(quality.present).toEqual(low);
  });

  it('does not take a pause for a slow frame', () => {
    const first = quality.present;
    move(10, 5000);
    expect(quality.present).toEqual(first);
  });

  it('is light by choice, also at rest', () => {
    quality.grading = 'light';
    expect(quality.present).toMatchObject({ quick: true, shadowTaps: 0, scale: 1 });
    quality.touch();
    expect(quality.present.scale).toBeLessThan(1);
  });

  it('begins low where a program stands in for the graphics card', () => {
    const software = new LiveQuality(true, again);
    software.touch();
    expect(software.present.quick).toBe(true);
    vi.advanceTimersByTime(1000);
    expect(software.present).toMatchObject({ scale: 1, samples: 0, quick: true });
    software.grading = 'fine';
    expect(software.present).toMatchObject({ scale: 1, samples: 0, quick: false });
  });
});
