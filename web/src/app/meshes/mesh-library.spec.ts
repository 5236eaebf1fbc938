import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import { MeshLibrary } from './mesh-library';

interface Asked {
  id: number;
  type: string;
  asset: string;
}

/** Stands for the thread that reads meshes: keeps what it is asked, and answers when it is told to. */
class Thread {
  static readonly made: Thread[] = [];
  readonly asked: Asked[] = [];
  onmessage: (event: { data: unknown }) => void = () => undefined;
  constructor() {
    Thread.made.push(this);
  }
  postMessage(request: Asked): void {
    this.asked.push(request);
  }
}

let library: MeshLibrary;
let thread: Thread;
const answer = (data: unknown) => thread.onmessage({ data });

beforeEach(() => {
  vi.stubGlobal('Worker', Thread);
  openStudio();
  library = TestBed.inject(MeshLibrary);
  thread = Thread.made.at(-1)!;
});
afterEach(() => vi.unstubAllGlobals());

describe('the library of meshes', () => {
  it('reads a model once, whoever asks for it', async () => {
    const [first, second] = [library.load('a'), library.load('a')];
    void library.load('b');
    expect(thread.asked.map(({ asset }) => asset)).toEqual(['a', 'b']);
    const model = { meshes: [], bounds: [] };
    answer({ id: thread.asked[0]!.id, made: model });
    expect(await Promise.all([first, second])).toEqual([model, model]);
    void library.load('a');
    expect(thread.asked).toHaveLength(2);
  });

  it('says what went wrong, and tries again when it is asked again', async () => {
    const load = library.load('a');
    answer({ id: thread.asked[0]!.id, failure: 'the server answered 404' });
    await expect(load).rejects.toThrow('The model could not be shown: the server answered 404. Reload the page.');
    void library.load('a');
    expect(thread.asked).toHaveLength(2);
  });

  it('gives every answer to the one who asked, in whatever order they come', async () => {
    const mesh = { asset: 'a', index: 0 };
    const faces = library.divide(mesh, 'faces');
    const survey = library.survey(mesh, 7, [1, 2, 3], 5);
    answer({ id: thread.asked[1]!.id, made: 'survey' });
    answer({ id: thread.asked[0]!.id, made: [[1], [2]] });
    expect([await faces, await survey]).toEqual([[[1], [2]], 'survey']);
    expect(thread.asked[1]).toMatchObject({ type: 'survey', triangle: 7, point: [1, 2, 3], reach: 5 });
  });

  it('keeps trees for picking and tells of them', () => {
    const told: string[] = [];
    library.onTree = (key) => told.push(key);
    answer({ planted: { mesh: 'a/3', tree: { roots: [] } } });
    expect([told, library.trees.get('a/3')]).toEqual([['a/3'], { roots: [] }]);
  });
});
