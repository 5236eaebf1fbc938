import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from 'vitest';
import { isEmpty } from '@zippy/core/geometry';
import { openStudio } from '../../testing/studioBed';
import { SceneBounds } from './scene-bounds';

const cube = { low: [-10, 0, -10], high: [10, 20, 10] } as const;
const known = () =>
  new Map(
    [0, 1, 2].map((index) => [`${'a'.repeat(64)}/${index}`, { low: [...cube.low], high: [...cube.high] }]),
  ) as never;

describe('bounds of the scene', () => {
  it('follow the parts where they stand now', () => {
    const studio = openStudio();
    const bounds = TestBed.inject(SceneBounds);
    bounds.meshes.set(known());
    studio.setProperty('Move', 'nodes/lid/position', [100, 0, 0]);
    expect(bounds.of(['lid'])).toEqual({ low: [90, 0, -10], high: [110, 20, 10] });
    expect(bounds.product()).toEqual({ center: [50, 10, 0], size: 120 });
  });

  it('tell the longest side of a part by its own axes, as large as it is made', () => {
    const studio = openStudio();
    const bounds = TestBed.inject(SceneBounds);
    expect(bounds.longest('lid')).toBeNull();
    bounds.meshes.set(known());
    studio.setProperty('Turn', 'nodes/lid/turn', [0, 45, 30]);
    expect(bounds.longest('lid')).toBeCloseTo(20, 9);
    studio.setProperty('Scale', 'nodes/lid/scale', [1, 3, 1]);
    expect(bounds.longest('lid')).toBeCloseTo(60, 9);
  });

  it('leave out what is hidden, and are empty without meshes', () => {
    const studio = openStudio();
    const bounds = TestBed.inject(SceneBounds);
    expect(isEmpty(bounds.of(['lid']))).toBe(true);
    expect(bounds.product().size).toBeGreaterThan(0);
    bounds.meshes.set(known());
    studio.setProperty('Hide', 'nodes/lid/visible', false);
    expect(isEmpty(bounds.of(['lid']))).toBe(true);
  });
});
