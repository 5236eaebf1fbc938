import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultRecipe, newAsset, newDocument } from '@zippy/core/document';
import { IDENTITY } from '@zippy/core/geometry';
import { fitStage } from '@zippy/core/intake';
import { openStudio } from '../../../testing/studioBed';
import { ServerProblem } from '../../api/api';
import { Models } from './models';
import { SceneBounds } from '../scene-bounds';
import { Notices } from '../notices';
import type { Studio } from '../studio';

const before = 'a'.repeat(64);
const after = 'b'.repeat(64);
const server = { rebuildModel: vi.fn(), saveEdits: vi.fn() };
let studio: Studio;
let models: Models;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockResolvedValue({ revision: 2 });
  server.rebuildModel.mockResolvedValue({ hash: after, found: { inverted: { 0: 12 } } });
  studio = openStudio(server);
  models = TestBed.inject(Models);
  studio.edit('asset', (draft) => {
    draft.assets['m'] = newAsset({
      id: 'm',
      name: 'Box',
      kind: 'model',
      hash: before,
      sourceHash: 'c'.repeat(64),
      sourceName: 'box.step',
      recipe: { ...defaultRecipe(), leave: { weld: [3] } },
      found: { inverted: { 0: 12, 2: 5 }, open: { 0: 3 } },
    });
    draft.nodes['lid']!.mesh!.joined = [{ asset: before, index: 7, transform: [...IDENTITY] }];
  });
});

const shell = () => studio.document().nodes['shell']!;

describe('the mesh of a part', () => {
  it('says what was found in it, and what of that can be undone', () => {
    expect(models.findingsOf(shell())).toEqual([
      { finding: 'inverted', count: 12, mend: 'orientation', mended: true },
      { finding: 'open', count: 3, mend: null, mended: true },
    ]);
    expect(models.findingsOf(studio.document().nodes['knob']!)).toEqual([]);
    expect(models.findingsOf(studio.document().nodes['box']!)).toEqual([]);
  });

  it('is made again without a mend for all parts at once, and undone as one step', async () => {
    await models.setMend(shell(), 'orientation', false);
    const [source, companions, recipe, meshes] = server.rebuildModel.mock.calls[0]!;
    expect(source).toEqual({ name: 'box.step', hash: 'c'.repeat(64) });
    expect([companions, meshes]).toEqual([[], 8]);
    expect(recipe.leave).toEqual({ weld: [3], orientation: [0] });
    expect(shell().mesh).toMatchObject({ asset: after });
    expect(studio.document().nodes['lid']!.mesh!.joined![0]).toMatchObject({ asset: after });
    expect(models.findingsOf(shell())[0]).toMatchObject({ mended: false });
    await models.setMend(shell(), 'orientation', true);
    expect(server.rebuildModel.mock.calls[1]![2].leave.orientation).toEqual([]);
    studio.undo();
    studio.undo();
    expect(shell().mesh).toMatchObject({ asset: before });
    expect(studio.document().assets['m']!.recipe!.leave).toEqual({ weld: [3] });
  });

  it('stays as it is where the server cannot make it, with the sentence why', async () => {
    server.rebuildModel.mockRejectedValueOnce(
      new ServerProblem({ title: 'model-changed', detail: 'Bring the file in anew.' }),
    );
    await models.rebuild(models.assetOf(shell())!, { chord: 0.02 }, 'Rounds');
    expect(TestBed.inject(Notices).notice()).toBe('Bring the file in anew.');
    expect(shell().mesh).toMatchObject({ asset: before });
    expect(models.making()).toBeNull();
  });
});

describe('the unit of a model', () => {
  const box = { low: [-10, 0, -10], high: [10, 20, 10] };
  const size = () => {
    const { low, high } = TestBed.inject(SceneBounds).of(['shell', 'knob']);
    return [high[1]! - low[1]!, low[1]!];
  };
  beforeEach(() => {
    TestBed.inject(SceneBounds).meshes.set(new Map([0, 1, 2].map((k) => [`${before}/${k}`, box])) as never);
  });

  it('is told where the whole model stands, and nowhere else', () => {
    expect(models.standing('box')).toEqual({ size: 1, unit: 'mm' });
    expect(models.standing('shell')).toBeNull();
    studio.setProperty('Scale', 'nodes/box/scale', [25.4, 25.4, 25.4]);
    expect(models.standing('box')!.unit).toBe('inch');
    studio.setProperty('Scale', 'nodes/box/scale', [3, 3, 3]);
    expect(models.standing('box')).toEqual({ size: 3, unit: null });
    // A group of several models has no unit of its own.
    studio.edit('group', (draft) => void (draft.nodes['lid']!.mesh = { asset: after, index: 0 }));
    studio.edit('group', (draft) => void (draft.nodes['lid']!.parent = 'box'));
    expect(models.standing('box')).toBeNull();
  });

  it('that was wrong is put right: the model grows on its foot, alone, and one undo takes it back', () => {
    const start = studio.document();
    const [height, foot] = size();
    models.setUnit('box', 'cm');
    expect(models.standing('box')!.unit).toBe('cm');
    expect(size()).toEqual([expect.closeTo(height! * 10, 6), expect.closeTo(foot!, 6)]);
    // The lid is a product of its own: it and the stage stay.
    expect(studio.document().nodes['lid']).toEqual(start.nodes['lid']);
    expect([studio.document().cameras, studio.document().lights]).toEqual([start.cameras, start.lights]);
    studio.undo();
    expect(studio.document()).toEqual(start);
  });

  it('takes camera, lamps and floor along where it is the only product', () => {
    studio.edit('alone', (draft) => {
      delete draft.nodes['lid'];
      const stage = newDocument('');
      Object.assign(draft, { cameras: stage.cameras, lights: stage.lights, set: stage.set });
      fitStage(draft, { center: [0, 10, 0], size: [20, 20, 20] });
    });
    const away = () => {
      const [camera] = Object.values(studio.document().cameras);
      return Math.hypot(...camera!.position.map((v, k) => v - camera!.target[k]!));
    };
    const start = away();
    models.setUnit('box', 'm');
    expect(away() / start).toBeCloseTo(1000, 0);
    expect(studio.document().set.floor.size).toBeGreaterThan(100_000);
  });
});
