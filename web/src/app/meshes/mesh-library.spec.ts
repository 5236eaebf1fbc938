import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import { MESH_THREAD, MeshLibrary } from './mesh-library';
import type { MeshThread } from './meshes.worker';

/** Stands for the thread that reads meshes. */
const thread = {
  load: vi.fn<MeshThread['load']>(),
  divide: vi.fn<MeshThread['divide']>(),
  measure: vi.fn<MeshThread['measure']>(),
  survey: vi.fn<MeshThread['survey']>(),
};
const model = { meshes: [], bounds: [], outlines: [] };
let library: MeshLibrary;

beforeEach(() => {
  vi.resetAllMocks();
  TestBed.configureTestingModule({ providers: [{ provide: MESH_THREAD, useValue: thread }] });
  openStudio({}, [{ provide: MESH_THREAD, useValue: thread }]);
  library = TestBed.inject(MeshLibrary);
});

describe('the library of meshes', () => {
  it('reads a model once, whoever asks for it', async () => {
    thread.load.mockResolvedValue(model);
    expect(await Promise.all([library.load('a'), library.load('a'), library.load('b')])).toEqual([model, model, model]);
    expect(thread.load.mock.calls.map(([asset]) => asset)).toEqual(['a', 'b']);
    await library.load('a');
    expect(thread.load).toHaveBeenCalledTimes(2);
  });

  it('says what went wrong, and tries again when it is asked again', async () => {
    thread.load.mockRejectedValueOnce(new Error('the server answered 404')).mockResolvedValue(model);
    await expect(library.load('a')).rejects.toThrow(
      'The model could not be shown: the server answered 404. Reload the page.',
    );
    expect(await library.load('a')).toBe(model);
  });

  it('passes on what is asked of a mesh', async () => {
    const mesh = { asset: 'a', index: 0 };
    thread.divide.mockResolvedValue([[1], [2]]);
    expect(await library.divide(mesh, 'faces')).toEqual([[1], [2]]);
    await library.survey(mesh, 7, [1, 2, 3], 5);
    expect(thread.survey).toHaveBeenCalledWith(mesh, 7, [1, 2, 3], 5);
  });

  it('keeps trees for picking and tells of them', async () => {
    const told: string[] = [];
    library.onTree = (key) => told.push(key);
    thread.load.mockResolvedValue(model);
    await library.load('a');
    const tree = { roots: [] } as unknown as Parameters<Parameters<MeshThread['load']>[1]>[1];
    thread.load.mock.calls[0]![1]('a/3', tree);
    expect([told, library.trees.get('a/3')]).toEqual([['a/3'], tree]);
  });
});
