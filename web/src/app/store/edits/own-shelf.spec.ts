import { TestBed } from '@angular/core/testing';
import { newAsset, newMap, type ProjectDocument } from '@zippy/core/document';
import { newMove } from '@zippy/core/motion';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { provideStudioEffects } from '../provide-store';
import { openStudio } from '../../../testing/studioBed';
import { eventually } from '../../../testing/mount';
import { Notices } from '../notices';
import type { Studio } from '../studio';
import { OwnShelf } from './own-shelf';

let studio: Studio;
let shelf: OwnShelf;
let kept: { id: string; name: string; folder: string; document: unknown; createdAt: number }[];

beforeEach(() => {
  vi.stubGlobal(
    'EventSource',
    class {
      close(): void {}
    },
  );
  kept = [];
  const api = {
    keptFinishes: async () => [...kept],
    keepFinish: async (name: string, folder: string, document: ProjectDocument) => {
      kept.push({ id: `k${kept.length}`, name, folder, document: structuredClone(document), createdAt: 0 });
      return kept.at(-1);
    },
    removeKept: async (id: string) => void (kept = kept.filter((each) => each.id !== id)),
  };
  studio = openStudio(api, [provideStudioEffects()]);
  shelf = TestBed.inject(OwnShelf);
});

describe("the user's own shelf", () => {
  it('keeps a finish with its picture and its motion, and brings all of it into another project', async () => {
    studio.edit('Prepare', (draft) => {
      draft.assets['grain'] = newAsset({ id: 'grain', name: 'Grain', kind: 'picture', hash: 'b'.repeat(64) });
      draft.finishes['gold']!.maps = { m: newMap('baseColor', 'grain') };
      draft.shots['one']!.tracks['finishes/gold/emissionPower'] = [
        { frame: 10, value: 0, pace: 'held' },
        { frame: 20, value: 5, pace: 'held' },
      ];
      const blink = newMove('blink', 'finishes/gold/emissionPower', 1, 9, { present: 1 });
      draft.shots['one']!.moves['blink'] = { ...blink, id: 'blink' };
      draft.shots['one']!.tracks['nodes/lid/glow'] = [{ frame: 1, value: 1, pace: 'linear' }];
    });
    await shelf.keep('gold');
    await eventually(() => expect(shelf.all().map(({ name }) => name)).toEqual(['Gold']));
    const own = shelf.all()[0]!;
    expect(Object.keys(own.document.shots['motion']!.tracks)).toEqual(['finishes/gold/emissionPower']);
    studio.edit('Another project', (draft) => {
      draft.assets = {};
      draft.finishes = {};
      for (const shot of Object.values(draft.shots)) Object.assign(shot, { tracks: {}, moves: {} });
      for (const node of Object.values(draft.nodes)) node.finish = null;
    });
    const id = shelf.bring(own);
    const { finishes, assets, shots } = studio.document();
    expect(finishes[id]!.name).toBe('Gold');
    expect(Object.values(assets).map(({ hash }) => hash)).toEqual(['b'.repeat(64)]);
    expect(shots['one']!.tracks[`finishes/${id}/emissionPower`]!.map(({ frame }) => frame)).toEqual([1, 11]);
    expect(Object.values(shots['one']!.moves).map(({ target }) => target)).toEqual([`finishes/${id}/emissionPower`]);
    studio.undo();
    expect(studio.document().finishes).toEqual({});
  });

  it('brings a second one in under a name of its own', async () => {
    await shelf.keep('gold');
    await eventually(() => expect(shelf.all()).toHaveLength(1));
    const id = shelf.bring(shelf.all()[0]!);
    expect(studio.document().finishes[id]!.name).toBe('Gold 2');
  });

  it('leaves out what a newer version has kept, and says why something cannot be kept', async () => {
    kept.push({ id: 'x', name: 'From the future', folder: '', document: { schemaVersion: 999 }, createdAt: 0 });
    shelf.load();
    await shelf.keep('gold');
    await eventually(() => expect(shelf.all().map(({ name }) => name)).toEqual(['Gold']));
    await shelf.remove('k1');
    await eventually(() => expect(shelf.all()).toEqual([]));
    expect(TestBed.inject(Notices).notice()).toBeNull();
  });
});
