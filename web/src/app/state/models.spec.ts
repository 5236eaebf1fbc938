import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultRecipe, newAsset } from '@zippy/core/document';
import { IDENTITY } from '@zippy/core/geometry';
import { openStudio } from '../../testing/studioBed';
import { ServerProblem } from '../api/api';
import { Models } from './models';
import { Session } from './session';
import type { Studio } from './studio';

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
    server.rebuildModel.mockRejectedValueOnce(new ServerProblem('model-changed', 'Bring the file in anew.', {}));
    await models.rebuild(models.assetOf(shell())!, { chord: 0.02 }, 'Rounds');
    expect(TestBed.inject(Session).notice()).toBe('Bring the file in anew.');
    expect(shell().mesh).toMatchObject({ asset: before });
    expect(models.making()).toBeNull();
  });
});
