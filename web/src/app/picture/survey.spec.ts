import { describe, expect, it, vi } from 'vitest';
import type { Transform } from '@zippy/core/geometry';
import type { Pick } from './stage';
import { surveyPick } from './survey';

/** A part twice as large, moved by 100 mm; it is drawn 50 mm further up. */
const transform: Transform = [2, 0, 0, 100, 0, 2, 0, 0, 0, 0, 2, 0];
const drawn: Transform = [2, 0, 0, 100, 0, 2, 0, 50, 0, 0, 2, 0];
const hit: Pick = {
  node: 'knob',
  transform,
  drawn,
  mesh: { asset: 'a'.repeat(64), index: 0 },
  triangle: 7,
  point: [110, 70, 0],
  normal: [0, 1, 0],
  pixel: 0.5,
  distance: 400,
};
const circle = { center: [0, 5, 0], axis: [0, 1, 0], radius: 8, residual: 0 } as const;
const axis = { kind: 'cone', point: [0, 5, 0], direction: [0, 0, 1], radius: 8, slope: 0.1, residual: 0.02 } as const;
const library = (kind: string, found: unknown = null) => ({
  survey: vi
    .fn()
    .mockResolvedValue({ snapped: { kind, point: [0, 5, 0], ...(kind === 'circle' ? { circle } : {}) }, axis: found }),
});

describe('a closer look at what was picked', () => {
  it('asks in the space of the mesh, with a reach of some pixels', async () => {
    const meshes = library('surface');
    await surveyPick(meshes, hit, 'point', 'Knob');
    // 12 pixels of half a millimetre are 3 mm in a part that is drawn twice as large.
    expect(meshes.survey).toHaveBeenCalledWith(hit.mesh, 7, [5, 10, 0], 3);
  });

  it('takes the place where the part stands, and points it out where it is drawn', async () => {
    const found = (await surveyPick(library('circle'), hit, 'point', 'Knob'))!;
    expect(found.place).toEqual({ node: 'knob', point: [100, 10, 0], normal: [0, 1, 0], axis: null });
    expect(found.mark).toEqual({ point: [100, 60, 0], ring: { axis: [0, 1, 0], radius: 16 } });
    expect(found.said).toBe('Centre of a round edge, radius 16.00 mm · Knob');
  });

  it('says an axis with how true it is, and that a face is not round', async () => {
    const found = (await surveyPick(library('surface', axis), hit, 'axis', 'Knob'))!;
    expect(found.place.axis).toMatchObject({ point: [100, 10, 0], direction: [0, 0, 1], radius: 16 });
    expect(found.mark!.point).toEqual([100, 60, 0]);
    expect(found.said).toBe('Cone, radius 16.00 mm, 5.7° steep, within 0.040 mm');
    expect((await surveyPick(library('surface'), hit, 'axis', 'Knob'))!.said).toBe('Not a round face');
  });

  it('of a part needs no look at its mesh, and of a part flattened to nothing there is none', async () => {
    const meshes = library('surface');
    expect((await surveyPick(meshes, hit, 'part', 'Knob'))!.said).toBe('Knob');
    const flat: Transform = [1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0];
    expect(await surveyPick(meshes, { ...hit, drawn: flat }, 'point', 'Knob')).toBeNull();
    expect(meshes.survey).not.toHaveBeenCalled();
  });
});
