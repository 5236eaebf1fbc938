import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { IDENTITY } from '@zippy/core/geometry';
import type { ModelTree } from '@zippy/core/intake';
import { defaultRecipe, type Recipe } from '@zippy/core/document';
import { Store } from '@ngrx/store';
import { openStudio } from '../../../testing/studioBed';
import { ServerProblem } from '../../api/api';
import { Notices } from '../../store/notices';
import type { Studio } from '../../store/studio';
import { TakesActions } from '../../store/takes/takes.actions';
import { Importer } from './importer';

const summary = { unit: 'mm', up: 'z', size: [1, 2, 3], parts: 1, triangles: 12, found: [], notes: [] };
const recipe: Recipe = { ...defaultRecipe(), up: 'z' };
const standing = { centered: true, onFloor: true };
const nothing = { cameras: false, lights: false, motion: false };
const tree: ModelTree = {
  nodes: [{ name: 'Crate', parent: -1, mesh: 0, transform: IDENTITY, finish: 0 }],
  finishes: [{ name: 'Red', values: { baseColor: [0.5, 0, 0] }, maps: [{ slot: 'baseColor', picture: 1, over: {} }] }],
  center: [0, 5, 0],
  bottom: 0,
  size: [10, 20, 30],
  middles: [],
};
/** Stands for a content hash. */
const hashOf = (name: string): string =>
  [...name]
    .map((letter) => letter.charCodeAt(0).toString(16))
    .join('')
    .padEnd(64, '0')
    .slice(0, 64);

const server = {
  upload: vi.fn(),
  startImport: vi.fn(),
  showImport: vi.fn(),
  acceptImport: vi.fn(),
  stopImport: vi.fn(),
  checkSurroundings: vi.fn(async () => ({ hash: 'a'.repeat(64), width: 64, height: 32, clipped: 0 })),
  checkLookup: vi.fn(),
  keepPicture: vi.fn(),
  startFootage: vi.fn(),
  showFootage: vi.fn(),
  stopFootage: vi.fn(),
  saveEdits: vi.fn(),
};
let studio: Studio;
let importer: Importer;
const file = (name: string) => new File(['x'], name);
const settled = () => vi.advanceTimersByTimeAsync(1000);

/** Takes the model in, with time for what it waits for. */
async function accept(take: typeof nothing): Promise<void> {
  const done = importer.accept(recipe, standing, take);
  await settled();
  await done;
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.upload.mockImplementation(async (each: File, progress: (part: number) => void) => {
    progress(1);
    return { hash: hashOf(each.name) };
  });
  server.startImport.mockImplementation(async (files: { name: string }[]) => ({
    id: files[0]!.name,
    state: 'reading',
  }));
  server.showImport.mockImplementation(async (id: string) => ({ id, state: 'read', summary }));
  server.stopImport.mockResolvedValue(undefined);
  server.saveEdits.mockResolvedValue({ revision: 2 });
  studio = openStudio(server);
  importer = TestBed.inject(Importer);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('bringing files in', () => {
  it('asks about every model on its own, with the materials an OBJ needs', async () => {
    void importer.bring([file('a.obj'), file('a.mtl'), file('b.stl')]);
    await settled();
    expect(importer.view()).toMatchObject({ name: 'a.obj', step: 'read' });
    expect(server.startImport.mock.calls[0]![0].map((each: File) => each.name)).toEqual(['a.obj', 'a.mtl']);
    void importer.stop();
    await settled();
    expect(importer.view()).toMatchObject({ name: 'b.stl', step: 'read' });
    expect(server.startImport.mock.calls[1]![0].map((each: File) => each.name)).toEqual(['b.stl']);
    expect(server.stopImport).toHaveBeenCalledWith('a.obj');
  });

  it('says why a file is refused, and goes on with the next', async () => {
    server.showImport.mockImplementationOnce(async (id: string) => ({
      id,
      state: 'failed',
      message: '"a.stl" is empty.',
    }));
    void importer.bring([file('a.stl'), file('b.stl')]);
    await settled();
    expect(TestBed.inject(Notices).notice()).toBe('"a.stl" is empty.');
    expect(importer.view()!.name).toBe('b.stl');
  });

  it('places what was taken in as one edit, selects it and has it framed', async () => {
    server.acceptImport.mockResolvedValue({
      hash: 'b'.repeat(64),
      sourceHash: 'c'.repeat(64),
      companions: [],
      found: { inverted: { 0: 12 } },
      tree,
      pictures: [null, { name: 'sign.jpg', hash: 'd'.repeat(64), deep: null }],
    });
    void importer.bring([file('crate.stl')]);
    await settled();
    const before = Object.keys(studio.document().nodes).length;
    await accept(nothing);
    expect(server.acceptImport).toHaveBeenCalledWith('crate.stl', recipe);
    expect(Object.keys(studio.document().nodes).length).toBeGreaterThan(before);
    const picture = Object.values(studio.document().assets).find((asset) => asset.kind === 'picture')!;
    expect(picture).toMatchObject({ name: 'sign', hash: 'd'.repeat(64) });
    const red = Object.values(studio.document().finishes).find((finish) => finish.name === 'Red')!;
    expect(red.maps.baseColor!.source).toEqual({ kind: 'picture', picture: picture.id });
    expect(importer.placed()).toBe(studio.primary()!.id);
    expect(importer.view()).toBeNull();
    studio.undo();
    expect(Object.keys(studio.document().nodes)).toHaveLength(before);
    expect(Object.keys(studio.document().assets)).toHaveLength(0);
  });

  it.each([
    ['stays open where another choice may do', 422, 'a.stl'],
    ['goes on with the next where the model is no longer held', 409, 'b.stl'],
  ])('that cannot be placed %s', async (_, status, asked) => {
    const said = 'In this unit the model reaches 12 km far. Choose a smaller unit.';
    server.acceptImport.mockRejectedValueOnce(
      new ServerProblem({ title: 'model-too-large', detail: said, ...{ status } }),
    );
    void importer.bring([file('a.stl'), file('b.stl')]);
    await settled();
    const before = Object.keys(studio.document().nodes).length;
    await accept(nothing);
    expect(TestBed.inject(Notices).notice()).toBe(said);
    expect(importer.view()).toMatchObject({ name: asked, step: 'read' });
    expect(Object.keys(studio.document().nodes)).toHaveLength(before);
  });

  it.each(['placed', 'refused'])(
    'that is stopped before it is %s leaves the scene and the next dialog alone',
    async (end) => {
      let answer = { resolve: (_: object) => undefined as void, reject: (_: Error) => undefined as void };
      server.acceptImport.mockReturnValueOnce(new Promise((resolve, reject) => (answer = { resolve, reject })));
      void importer.bring([file('a.stl'), file('b.stl')]);
      await settled();
      const before = studio.document();
      const done = importer.accept(recipe, standing, nothing);
      void importer.stop();
      await settled();
      const model = { hash: 'b'.repeat(64), sourceHash: 'c'.repeat(64), companions: [], found: {}, pictures: [], tree };
      if (end === 'placed') answer.resolve(model);
      else answer.reject(new Error('Damaged.'));
      await settled();
      await done;
      expect(studio.document()).toBe(before);
      expect(TestBed.inject(Notices).notice()).not.toBe('Damaged.');
      expect(importer.view()).toMatchObject({ name: 'b.stl', step: 'read' });
    },
  );

  it('takes of what came along what was chosen: lights and cameras on their parts, keys in the shot', async () => {
    const place = { node: 0, position: [0, 100, 0] as const, target: [0, 0, 0] as const };
    const along: ModelTree['along'] = {
      cameras: [{ ...place, name: 'Lens', values: { focalLength: 35 } }],
      lights: [{ ...place, name: 'Top', values: { kind: 'spot', power: 9, unit: 'candela' } }],
      motion: [
        {
          node: 0,
          held: false,
          keys: [
            { seconds: 0, transform: IDENTITY },
            { seconds: 10, transform: [1, 0, 0, 50, 0, 1, 0, 0, 0, 0, 1, 0] },
          ],
        },
      ],
    };
    const model = { hash: 'b'.repeat(64), sourceHash: 'c'.repeat(64), companions: [], found: {}, pictures: [] };
    server.acceptImport.mockResolvedValue({ ...model, tree: { ...tree, along } });
    const bring = async (take: typeof nothing) => {
      void importer.bring([file('crate.glb')]);
      await settled();
      await accept(take);
    };
    await bring(nothing);
    expect(Object.keys(studio.document().lights)).toHaveLength(2);
    expect(studio.shot()!.tracks).toEqual({});
    await bring({ cameras: true, lights: true, motion: true });
    const crate = Object.values(studio.document().nodes).filter(({ name }) => name === 'Crate').at(-1)!; // prettier-ignore
    const top = Object.values(studio.document().lights).find(({ name }) => name === 'Top')!;
    expect(top).toMatchObject({ parent: crate.id, position: [0, 100, 0], power: 9, order: 2 });
    const lens = Object.values(studio.document().cameras).find(({ name }) => name === 'Lens')!;
    expect(lens).toMatchObject({ parent: crate.id, focalLength: 35 });
    expect(studio.shot()!.tracks[`nodes/${crate.id}/position`]!.map(({ frame }) => frame)).toEqual([1, 241]);
    // The shot had 48 frames: it is as long as the motion now, and one undo takes all of it back.
    expect(studio.shot()!.length).toBe(241);
    studio.undo();
    expect(studio.shot()!.length).toBe(48);
    expect(Object.keys(studio.document().lights)).toHaveLength(2);
  });

  it('sends pictures along with an OBJ, and keeps those that come alone for finishes to wear', async () => {
    void importer.bring([file('a.obj'), file('a.mtl'), file('wood.JPG')]);
    await settled();
    const sent = server.startImport.mock.calls[0]![0].map((each: File) => each.name);
    expect(sent).toEqual(['a.obj', 'a.mtl', 'wood.JPG']);
    void importer.stop();
    await settled();
    server.keepPicture.mockResolvedValueOnce({ hash: 'e'.repeat(64), deep: null, clipped: 0, smaller: false });
    await importer.bring([file('wood.JPG')]);
    expect(Object.values(studio.document().assets)).toMatchObject([
      { kind: 'picture', name: 'wood', hash: 'e'.repeat(64) },
    ]);
    server.keepPicture.mockRejectedValueOnce(
      new ServerProblem({ title: 'picture-broken', detail: 'This is no picture.' }),
    );
    expect(await importer.bringPicture(file('bad.png'))).toBeNull();
    expect(TestBed.inject(Notices).notice()).toBe('This is no picture.');
    expect(importer.view()).toBeNull();
  });

  describe('a film', () => {
    const job = { id: 'j', state: 'reading', frames: 0, of: 10, message: '', footage: null };
    const frames = ['a', 'b'].map((digit) => digit.repeat(64));
    const footage = {
      frames,
      rate: 10,
      brightness: [0.1, 0.2],
      size: { width: 8, height: 8 },
      notes: ['"clip.mp4" is wide.'],
    };

    it('is read frame by frame, with how far that is, and kept as footage', async () => {
      server.startFootage.mockResolvedValue(job);
      server.showFootage
        .mockResolvedValueOnce({ ...job, frames: 5 })
        .mockResolvedValue({ ...job, state: 'read', footage });
      void importer.bring([file('clip.mp4')]);
      await vi.advanceTimersByTimeAsync(300);
      expect(importer.view()).toMatchObject({ name: 'clip.mp4', step: 'watching', part: 0.5 });
      await settled();
      expect(importer.view()).toBeNull();
      expect(Object.values(studio.document().assets)).toMatchObject([
        { kind: 'footage', name: 'clip', hash: frames[0], footage: { frames, rate: 10 } },
      ]);
      expect(TestBed.inject(Notices).news()).toBe('clip: 2 frames, 0.2 s. "clip.mp4" is wide.');
      studio.undo();
      expect(studio.document().assets).toEqual({});
    });

    it('of one picture alone is a picture, and one that cannot be read says why', async () => {
      server.startFootage.mockResolvedValueOnce({
        ...job,
        state: 'read',
        footage: { ...footage, frames: [frames[0]] },
      });
      await importer.bring([file('still.gif')]);
      expect(Object.values(studio.document().assets)).toMatchObject([{ kind: 'picture', footage: null }]);
      server.startFootage.mockResolvedValueOnce({ ...job, state: 'failed', message: 'It is broken.' });
      server.keepPicture.mockResolvedValueOnce({ hash: 'e'.repeat(64), deep: null, clipped: 0, smaller: false });
      await importer.bring([file('bad.mov'), file('wood.png')]);
      expect(TestBed.inject(Notices).notice()).toBe('It is broken.');
      // What comes after it comes in.
      expect(Object.values(studio.document().assets).map(({ name }) => name)).toEqual(['still', 'wood']);
    });

    it('is stopped', async () => {
      server.startFootage.mockResolvedValue(job);
      server.showFootage.mockResolvedValue(job);
      void importer.bring([file('clip.mp4')]);
      await vi.advanceTimersByTimeAsync(300);
      void importer.stop();
      await settled();
      expect(server.stopFootage).toHaveBeenCalledWith('j');
      expect([importer.view(), studio.document().assets]).toEqual([null, {}]);
    });
  });

  it('takes a look-up table into the look, of the selected take where one is, after the server has read it', async () => {
    void importer.bring([file('Dusk.CUBE')]);
    await settled();
    const { look, assets } = studio.document();
    expect(Object.values(assets)).toMatchObject([{ kind: 'lookup', name: 'Dusk', hash: look.lookup }]);
    studio.edit('Take', (draft) => void (draft.takeLooks['t'] = { ...draft.look, lookup: null }));
    studio.edit('None', (draft) => void (draft.look.lookup = null));
    const takes = [{ id: 't', shot: 'one' }] as never;
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes }));
    studio.select('take', 't');
    void importer.bring([file('Dawn.cube')]);
    await settled();
    expect(studio.document().look.lookup).toBeNull();
    expect(studio.document().takeLooks['t']!.lookup).toBe(hashOf('Dawn.cube'));
    server.checkLookup.mockRejectedValue(new ServerProblem({ title: 'lookup-broken', detail: 'This is no table.' }));
    void importer.bring([file('bad.cube')]);
    await settled();
    expect(TestBed.inject(Notices).notice()).toBe('This is no table.');
    expect(Object.values(studio.document().assets)).toHaveLength(2);
  });

  it('takes a surroundings picture straight into the set, after the server has read it', async () => {
    void importer.bring([file('Loft.HDR')]);
    await settled();
    const { surroundings } = studio.document().set;
    expect(surroundings.kind).toBe('picture');
    expect(studio.document().assets[surroundings.picture!]!.name).toBe('Loft');
    server.checkSurroundings.mockRejectedValue(
      new ServerProblem({ title: 'hdr-broken', detail: 'This is no HDR picture.' }),
    );
    void importer.bring([file('bad.exr')]);
    await settled();
    expect(TestBed.inject(Notices).notice()).toBe('This is no HDR picture.');
    expect(Object.values(studio.document().assets)).toHaveLength(1);
  });
});
