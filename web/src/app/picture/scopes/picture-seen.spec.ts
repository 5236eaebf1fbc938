import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultLook } from '@zippy/core/document';
import { openStudio } from '../../../testing/studioBed';
import { measurePicture, type ScopeKind } from './measure';
import { PictureSeen, SCOPES_THREAD } from './picture-seen';

// A canvas of the tests draws nothing: what is asked of it is what counts here.
const bitmaps: number[][] = [];
let measured: ScopeKind[];
let answer: () => Promise<void>;
let seen: PictureSeen;
const canvas = Object.assign(document.createElement('canvas'), { width: 200, height: 100 });
const pixels = new Uint8ClampedArray([255, 255, 255, 255, 0, 0, 0, 255]);
const thread = {
  async measure(_: ImageBitmap, kind: ScopeKind) {
    measured.push(kind);
    await answer();
    return measurePicture({ width: 2, height: 1, pixels }, kind);
  },
  meter: () => 1.25,
  at: () => [1, 2, 3, 255] as [number, number, number, number],
};
const settled = async (milliseconds = 200) => {
  TestBed.tick();
  await vi.advanceTimersByTimeAsync(milliseconds);
};

beforeEach(() => {
  vi.useFakeTimers();
  bitmaps.length = 0;
  measured = [];
  answer = async () => undefined;
  vi.stubGlobal('createImageBitmap', async (_: unknown, ...box: number[]) => (bitmaps.push(box), new ArrayBuffer(1)));
  openStudio({}, [{ provide: SCOPES_THREAD, useValue: () => thread }]);
  seen = TestBed.inject(PictureSeen);
});
// Test files of the page share their worker: clocks that stand would stop the next one.
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the picture that is seen', () => {
  it('is measured only while somebody looks at the scopes', async () => {
    seen.drew('sketch', canvas);
    await settled();
    expect(measured).toEqual([]);
    seen.redraw = () => seen.drew('sketch', canvas, { left: 0.25, top: 0, width: 0.5, height: 1 });
    seen.watching.set(true);
    await settled();
    expect(measured).toEqual(['histogram']);
    // The film's frame alone.
    expect(bitmaps).toEqual([[50, 0, 100, 100]]);
    expect(seen.measured()).toMatchObject({ full: 0.5, empty: 0.5 });
    seen.watching.set(false);
    await settled();
    expect(seen.measured()).toBeNull();
  });

  it('is that which lies on top, measured anew by another scope', async () => {
    seen.watching.set(true);
    seen.top.set('take');
    await settled();
    seen.drew('traced', canvas);
    await settled();
    expect(measured).toEqual([]);
    seen.drew('take', canvas);
    await settled();
    seen.kind.set('parade');
    await settled();
    expect(measured).toEqual(['histogram', 'parade']);
    expect(seen.measured()!.planes).toHaveLength(3);
    expect(await seen.at(0, 0)).toEqual([1, 2, 3, 255]);
  });

  it('is looked at one state after another: of many that come meanwhile the last counts', async () => {
    seen.top.set('take');
    seen.watching.set(true);
    await settled();
    let go = () => undefined as void;
    answer = () => new Promise((resolve) => (go = resolve));
    for (let k = 0; k < 20; k++) seen.drew('take', canvas);
    await settled();
    expect(measured).toHaveLength(1);
    go();
    await settled();
    expect(measured).toHaveLength(2);
  });

  it('says how it would have to be exposed, a sketch drawn once more for it', async () => {
    let drawn = 0;
    seen.redraw = () => {
      drawn++;
      seen.drew('sketch', canvas);
    };
    expect(await seen.meter(defaultLook())).toBe(1.25);
    expect([drawn, measured]).toEqual([1, ['histogram']]);
    seen.top.set('traced');
    expect(await seen.meter(defaultLook())).toBeNull();
  });

  it('goes on after a canvas that could not be read', async () => {
    seen.top.set('take');
    seen.watching.set(true);
    await settled();
    answer = () => Promise.reject(new Error('gone'));
    seen.drew('take', canvas);
    await settled();
    answer = async () => undefined;
    seen.drew('take', canvas);
    await settled();
    expect(seen.measured()).not.toBeNull();
  });
});
