import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import { MeshLibrary } from '../../meshes/mesh-library';
import { Notices } from '../notices';
import { PickingTask, type PickedPlace } from '../picking';
import { SceneBounds } from '../scene-bounds';
import type { Studio } from '../studio';
import { Labels } from './labels';

let studio: Studio;
let labels: Labels;
const own = () => Object.values(studio.document().nodes['knob']!.labels);
const click = (over: Partial<PickedPlace> = {}) =>
  TestBed.inject(PickingTask)
    .task()!
    .done({ node: 'knob', point: [0, 5, 10], normal: [0, 0, 1], axis: null, ...over });

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio({}, [{ provide: MeshLibrary, useValue: {} }]);
  labels = TestBed.inject(Labels);
  const box = { low: [-20, 0, -10], high: [20, 20, 10] };
  TestBed.inject(SceneBounds).meshes.set(new Map([0, 1, 2].map((k) => [`${'a'.repeat(64)}/${k}`, box])) as never);
});

describe('a label', () => {
  it('is printed where the part is clicked, upright, in proportion to part and picture, and undone', async () => {
    labels.print('sign', 'Sign', 2);
    await click();
    expect(own()).toMatchObject([{ name: 'Sign', picture: 'sign', width: 20, height: 10, wrap: 'flat' }]);
    for (const [k, v] of [0, 5, 10].entries()) expect(own()[0]!.position[k]).toBeCloseTo(v);
    for (const v of own()[0]!.turn) expect(v).toBeCloseTo(0);
    studio.undo();
    expect(own()).toEqual([]);
  });

  it('lies in the space of its part, however that stands', async () => {
    studio.setProperty('Move', 'nodes/box/position', [100, 0, 0]);
    studio.setProperty('Turn', 'nodes/box/turn', [0, Math.PI / 2, 0]);
    labels.print('sign', 'Sign', 1);
    await click({ point: [110, 5, 0], normal: [1, 0, 0] });
    for (const [k, v] of [0, 5, 10].entries()) expect(own()[0]!.position[k]).toBeCloseTo(v);
    for (const v of own()[0]!.turn) expect(v).toBeCloseTo(0);
  });

  it('is wrapped round a shaft that is clicked, and flat again where it is placed anew on a flat face', async () => {
    labels.print('sign', 'Sign', 1);
    const axis = { kind: 'cylinder', point: [0, 0, 0], direction: [0, -1, 0], radius: 10, slope: 0, residual: 0 };
    await click({ axis: axis as never });
    expect(own()[0]).toMatchObject({ wrap: 'round', radius: 10 });
    const [id] = Object.keys(studio.document().nodes['knob']!.labels);
    labels.move('knob', id!);
    await click({ point: [3, 20, 0], normal: [0, 1, 0] });
    expect(own()[0]!.wrap).toBe('flat');
    expect(own()[0]!.position[1]).toBeCloseTo(20);
  });

  it('is made of a finish of the shelf, which comes into the project once, and of ink again', async () => {
    labels.print('sign', 'Sign', 1);
    await click();
    const [id] = Object.keys(studio.document().nodes['knob']!.labels);
    const card = { name: 'Card', baseColor: [0.8, 0.8, 0.8] as [number, number, number] };
    labels.makeOf('knob', id!, card);
    const [finish] = Object.values(studio.document().finishes).filter(({ name }) => name === 'Card');
    expect(own()[0]!.finish).toBe(finish!.id);
    labels.makeOf('knob', id!, null);
    labels.makeOf('knob', id!, card);
    expect(Object.values(studio.document().finishes).filter(({ name }) => name === 'Card')).toHaveLength(1);
    expect(own()[0]!.finish).toBe(finish!.id);
  });

  it('stays on its part: another that is clicked is told', async () => {
    labels.print('sign', 'Sign', 1);
    await click();
    const [id] = Object.keys(studio.document().nodes['knob']!.labels);
    labels.move('knob', id!);
    await click({ node: 'lid' });
    expect(TestBed.inject(Notices).notice()).toMatch(/stays on its part/);
  });
});
