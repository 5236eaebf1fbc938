import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { CameraFlight } from './camera-flight';

let studio: Studio;
let flight: CameraFlight;
const eye = () => studio.document().cameras['eye']!;
const near = (a: readonly number[], b: readonly number[]) => a.forEach((v, k) => expect(v).toBeCloseTo(b[k]!, 6));

beforeEach(() => {
  studio = openStudio();
  flight = TestBed.inject(CameraFlight);
  studio.setProperties('Stand', { 'cameras/eye/position': [0, 0, 500], 'cameras/eye/target': [0, 0, 0] });
});

describe('flying the camera', () => {
  it('goes from where it was taken hold of, however often it is told, as one step of undo', () => {
    flight.fly('taken', 'eye');
    flight.fly({ position: [10, 0, 0], target: [0, 0, 0] }, 'eye');
    flight.fly({ position: [20, 5, 0], target: [1, 0, 0] }, 'eye');
    near(eye().position, [20, 5, 500]);
    near(eye().target, [1, 0, 0]);
    studio.undo();
    near(eye().position, [0, 0, 500]);
  });

  it('keys a camera that has keys, and leaves it where it rests', () => {
    studio.goTo(1);
    studio.toggleKeys(['cameras/eye/position']);
    studio.goTo(10);
    flight.fly('taken', 'eye');
    flight.fly({ position: [0, 50, 0], target: [0, 0, 0] }, 'eye');
    near(eye().position, [0, 0, 500]);
    expect(studio.shot()!.tracks['cameras/eye/position']!.map(({ frame }) => frame)).toEqual([1, 10]);
  });

  it('walks without looking elsewhere', () => {
    flight.walk('forward', 'eye');
    near(eye().position, [0, 0, 475]);
    near(eye().target, [0, 0, -25]);
    flight.walk('right', 'eye');
    expect(eye().position[0]).toBeGreaterThan(0);
    expect(eye().target[0]).toBeCloseTo(eye().position[0], 6);
    studio.undo();
    // Steps in quick succession are one.
    near(eye().position, [0, 0, 500]);
  });

  it('zooms by its lens within what lenses have, and leans', () => {
    const { focalLength } = eye();
    flight.zoom(2, 'eye');
    expect(eye().focalLength).toBeCloseTo(2 * focalLength, 6);
    flight.zoom(1e6, 'eye');
    expect(eye().focalLength).toBe(2000);
    flight.roll(0.1, 'eye');
    expect(eye().roll).toBeCloseTo(0.1, 6);
  });

  it('takes a view into a camera, lens and all', () => {
    flight.take('eye', { position: [100, 50, 0], target: [0, 10, 0], focalLength: 85 });
    near(eye().position, [100, 50, 0]);
    near(eye().target, [0, 10, 0]);
    expect(eye().focalLength).toBe(85);
    studio.undo();
    near(eye().position, [0, 0, 500]);
  });

  it('of no camera does nothing', () => {
    const before = studio.document();
    flight.fly('taken', null);
    flight.fly({ position: [1, 1, 1], target: [0, 0, 0] }, null);
    flight.walk('up', null);
    flight.zoom(2, null);
    expect(studio.document()).toBe(before);
  });
});
