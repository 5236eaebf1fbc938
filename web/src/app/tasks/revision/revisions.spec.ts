import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { IDENTITY } from '@zippy/core/geometry';
import { newAsset } from '@zippy/core/document';
import type { ModelTree } from '@zippy/core/intake';
import { openStudio } from '../../../testing/studioBed';
import { Notices } from '../../store/notices';
import type { Studio } from '../../store/studio';
import { Revisions } from './revisions';

const HASH = 'a'.repeat(64);
const summary = { unit: 'mm', up: 'y', size: [1, 2, 3], parts: 2, triangles: 12, found: [], notes: [] };
const shape = (area: number) => ({ area, volume: area, moments: [area, area, area] });
/** The shell as it was, the knob changed, the lid gone, a foot new. */
const tree: ModelTree = {
  nodes: ['Shell', 'Knob', 'Foot'].map((name, mesh) => ({ name, parent: -1, mesh, transform: IDENTITY, finish: null })),
  finishes: [],
  center: [0, 0, 0],
  bottom: 0,
  size: [10, 20, 30],
  middles: [],
};
const server = {
  upload: vi.fn(),
  startImport: vi.fn(),
  showImport: vi.fn(),
  acceptImport: vi.fn(),
  compareModels: vi.fn(),
  saveEdits: vi.fn(),
};
let studio: Studio;
let revisions: Revisions;
const asset = () => studio.document().assets['model']!;
const settled = () => vi.advanceTimersByTimeAsync(1000);
const states = () => revisions.rows().map(({ before, after, state }) => [before?.name ?? after!.name, state]);

beforeEach(async () => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', class {});
  server.upload.mockResolvedValue({ hash: 'c'.repeat(64) });
  server.startImport.mockResolvedValue({ id: 'job', state: 'reading' });
  server.showImport.mockResolvedValue({ id: 'job', state: 'read', summary });
  server.acceptImport.mockResolvedValue({ hash: 'b'.repeat(64), sourceHash: 'c'.repeat(64), companions: [], found: {}, pictures: [], tree }); // prettier-ignore
  server.compareModels.mockResolvedValue({ before: [shape(10), shape(20), shape(30)], after: [shape(10), shape(25), shape(40)] }); // prettier-ignore
  server.saveEdits.mockResolvedValue({ revision: 2 });
  studio = openStudio(server);
  revisions = TestBed.inject(Revisions);
  studio.edit('Model', (draft) => {
    draft.assets['model'] = newAsset({ id: 'model', name: 'Box', kind: 'model', hash: HASH });
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('a new revision of a file', () => {
  const bring = async (name = 'box-2.step') => {
    void revisions.bring(asset(), [new File(['x'], name)]);
    await settled();
  };

  it('is compared part by part before anything changes', async () => {
    await bring();
    expect(server.compareModels).toHaveBeenCalledWith(HASH, 'b'.repeat(64));
    expect(states()).toEqual([
      ['Shell', 'same'],
      ['Knob', 'changed'],
      ['Lid', 'gone'],
      ['Foot', 'new'],
    ]);
    expect(asset().hash).toBe(HASH);
    revisions.leave();
    expect(revisions.view()).toBeNull();
  });

  it('takes the place of the model in one step of undo', async () => {
    await bring();
    revisions.take();
    expect(asset()).toMatchObject({ hash: 'b'.repeat(64), sourceName: 'box-2.step' });
    const { nodes } = studio.document();
    expect(nodes['knob']).toMatchObject({ finish: 'gold', mesh: { asset: 'b'.repeat(64), index: 1 } });
    expect(nodes['lid']).toBeUndefined();
    expect(Object.values(nodes).some(({ name }) => name === 'Foot')).toBe(true);
    studio.undo();
    expect(studio.document().nodes['lid']).toBeDefined();
    expect(asset().hash).toBe(HASH);
  });

  it('does what was said by hand', async () => {
    await bring();
    const lid = revisions.rows().find(({ before }) => before?.name === 'Lid')!;
    const foot = revisions.rows().find(({ state }) => state === 'new')!;
    revisions.say(lid.match.before!, foot.match.after);
    expect(states()).toEqual([
      ['Shell', 'same'],
      ['Knob', 'changed'],
      ['Lid', 'changed'],
    ]);
    revisions.say(lid.match.before!, null);
    const [gone, fresh] = ['gone', 'new'].map((state) => revisions.rows().find((row) => row.state === state)!);
    revisions.keep(gone!.match, true);
    revisions.keep(fresh!.match, false);
    revisions.take();
    const { nodes, assets } = studio.document();
    expect(nodes['lid']!.mesh).toMatchObject({ asset: HASH });
    expect(Object.values(nodes).some(({ name }) => name === 'Foot')).toBe(false);
    expect(Object.values(assets).map(({ name }) => name)).toContain('Box before');
  });

  it('says what is wrong and leaves the model alone where the file is none or cannot be read', async () => {
    await bring('wood.jpg');
    expect(TestBed.inject(Notices).notice()).toContain('None of these files is a model');
    server.showImport.mockResolvedValue({ id: 'job', state: 'failed', message: '"box-2.step" is damaged.' });
    await bring();
    expect(TestBed.inject(Notices).notice()).toBe('"box-2.step" is damaged.');
    expect(revisions.view()).toBeNull();
    expect(asset().hash).toBe(HASH);
  });
});
