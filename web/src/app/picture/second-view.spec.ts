import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { SecondView } from './second-view';

let studio: Studio;
let second: SecondView;

beforeEach(() => {
  localStorage.clear();
  studio = openStudio();
  second = TestBed.inject(SecondView);
  second.size.set({ width: 800, height: 500 });
  second.aspect.set(2);
  studio.lookThroughCamera(false);
});

describe('the second view', () => {
  it('is nowhere, in a corner, beside, and nowhere again', () => {
    expect([second.box(), second.share()]).toEqual([null, 1]);
    second.next();
    expect(second.box()).toEqual({ left: 10, bottom: 10, width: 256, height: 128 });
    expect(second.share()).toBe(1);
    second.next();
    expect(second.box()).toEqual({ left: 400, bottom: 150, width: 400, height: 200 });
    expect(second.share()).toBe(0.5);
    second.next();
    expect(second.box()).toBeNull();
  });

  it('lies inside the picture whatever the shape of the film', () => {
    for (const place of ['corner', 'beside'] as const)
      for (const aspect of [0.3, 0.56, 1, 2.39, 6])
        for (const [width, height] of [[1200, 300], [400, 900]] as const) {
          second.place.set(place);
          second.size.set({ width, height });
          second.aspect.set(aspect);
          const box = second.box()!;
          expect(box.left).toBeGreaterThanOrEqual(place === 'beside' ? width / 2 : 0);
          expect(box.left + box.width).toBeLessThanOrEqual(width);
          expect(box.bottom).toBeGreaterThanOrEqual(0);
          expect(box.bottom + box.height).toBeLessThanOrEqual(height);
          expect(Math.abs(box.width / box.height / aspect - 1)).toBeLessThan(0.03);
        } // prettier-ignore
  });

  it('is none through the camera, without one, and where there is no room', () => {
    second.place.set('beside');
    studio.lookThroughCamera(true);
    expect([second.box(), second.share()]).toEqual([null, 1]);
    studio.lookThroughCamera(false);
    second.size.set({ width: 200, height: 200 });
    expect(second.box()).toBeNull();
    second.size.set({ width: 800, height: 500 });
    studio.edit('No camera', (draft) => {
      draft.cameras = {};
      for (const shot of Object.values(draft.shots)) shot.camera = null;
    });
    expect(second.box()).toBeNull();
  });
});
