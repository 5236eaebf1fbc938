import { gripPlace } from '@zippy/core/scene';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { boundsOfTransformed, type Transform } from '@zippy/core/geometry';
import { openStudio } from '../../../testing/studioBed';
import { MeshLibrary } from '../../meshes/mesh-library';
import { PickingTask } from '../picking';
import { Pivots } from './pivots';
import { SceneBounds } from '../scene-bounds';
import { Notices } from '../notices';
import type { Studio } from '../studio';

let studio: Studio;
let measure: ReturnType<typeof vi.fn>;
/** The ends of a thin rod along a diagonal of its box. */
const rod = [-10, 10, 0, 10, -10, 0];
let pivots: Pivots;
const pick = (...ids: string[]) => studio.selectAll(ids.map((id) => ({ kind: 'node', id })));
const node = (id: string) => studio.document().nodes[id]!;
const place = (id: string) => gripPlace(studio.present(), { collection: 'nodes', id })!.map((v) => Math.round(v * 1e4) / 1e4 + 0); // prettier-ignore
const task = () => TestBed.inject(PickingTask).task();

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  measure = vi.fn(async (_, transform: Transform) => boundsOfTransformed(rod, transform));
  const api = { saveEdits: vi.fn().mockResolvedValue({ revision: 2 }) };
  studio = openStudio(api, [{ provide: MeshLibrary, useValue: { measure } }]);
  pivots = TestBed.inject(Pivots);
  const box = { low: [-10, 0, -10], high: [10, 20, 10] };
  TestBed.inject(SceneBounds).meshes.set(new Map([0, 1, 2].map((k) => [`${'a'.repeat(64)}/${k}`, box])) as never);
  studio.setProperty('Move', 'nodes/lid/position', [100, 0, 0]);
});

describe('the turning point', () => {
  it('goes to the centre or base of each selected node, wherever it stands, without moving it', async () => {
    studio.setProperty('Turn', 'nodes/lid/turn', [0, 0, Math.PI / 2]);
    pick('lid', 'box');
    await pivots.toCentre();
    expect(place('lid')).toEqual([90, 0, 0]);
    expect(place('box')).toEqual([0, 10, 0]);
    await pivots.toBase();
    expect(place('lid')).toEqual([90, -10, 0]);
    expect(place('box')).toEqual([0, 0, 0]);
    studio.undo();
    expect(place('lid')).toEqual([90, 0, 0]);
  });

  it('counts as it stands on the present frame, not at rest', () => {
    studio.edit('Key', (draft) => {
      draft.shots['one']!.tracks['nodes/lid/position'] = [{ frame: 1, value: [0, 500, 0], pace: 'linear' }];
    });
    pick('lid');
    pivots.pickPoint();
    task()!.done({ node: 'lid', point: [10, 520, 0], normal: [0, 1, 0], axis: null });
    expect(node('lid').pivot).toEqual([10, 20, 0]);
    expect(place('lid')).toEqual([10, 520, 0]);
  });

  it('and its axis come from a round face; a face that is not round says so', () => {
    pick('lid');
    pivots.pickAxis();
    expect(task()!.kind).toBe('axis');
    task()!.done({ node: 'shell', point: [0, 0, 0], normal: [0, 1, 0], axis: null });
    expect(TestBed.inject(Notices).notice()).toContain('not round');
    const axis = {
      kind: 'cylinder',
      point: [100, 5, 0],
      direction: [0, 0, 1],
      radius: 3,
      slope: 0,
      residual: 0,
    } as const;
    task()!.done({ node: 'shell', point: [0, 0, 0], normal: [0, 1, 0], axis: axis as never });
    expect(node('lid')).toMatchObject({ pivot: [0, 5, 0], axis: [0, 0, 1] });
  });

  it('of a turned part is at the base of what is seen of it, not of its turned box', async () => {
    studio.setProperty('Turn', 'nodes/lid/turn', [0, 0, Math.PI / 4]);
    pick('lid');
    await pivots.toBase();
    // A rod along the diagonal of its box lies flat once it is turned: its box would stand 14 mm below.
    expect(place('lid')).toEqual([100, 0, 0]);
    measure.mockRejectedValueOnce(new Error('The model could not be shown.'));
    await pivots.toCentre();
    expect(place('lid')).toEqual([100, 0, 0]);
    expect(TestBed.inject(Notices).notice()).toContain('could not be shown');
  });

  it("goes to another part's centre", async () => {
    pick('lid');
    pivots.pickPart();
    await task()!.done({ node: 'knob', point: [3, 3, 3], normal: [0, 1, 0], axis: null });
    expect(place('lid')).toEqual([0, 10, 0]);
  });

  it('is asked for until the same button is pressed again', () => {
    pick('lid');
    pivots.pickPoint();
    expect(task()!.kind).toBe('point');
    pivots.pickPart();
    expect(task()!.kind).toBe('part');
    pivots.pickPart();
    expect(task()).toBeNull();
  });
});
