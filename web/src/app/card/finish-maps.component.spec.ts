import { beforeEach, describe, expect, it, vi } from 'vitest';
import { TestBed } from '@angular/core/testing';
import { layersOf, meshKey, newAsset } from '@zippy/core/document';
import { pictureOfSource } from '@zippy/core/optics';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { SceneBounds } from '../store/scene-bounds';
import type { Studio } from '../store/studio';
import { FinishMapsComponent } from './finish-maps.component';

let studio: Studio;
let page: Mounted<FinishMapsComponent>;
const finish = () => studio.document().finishes['gold']!;
const press = async (name: string | RegExp) => {
  await page.user.click(page.show.getByRole('button', { name }));
  await page.fixture.whenStable();
};

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  studio.edit('Bring in', (draft) => {
    draft.assets['sign'] = newAsset({ id: 'sign', name: 'Sign', kind: 'picture', hash: 'b'.repeat(64) });
  });
  page = await mount(FinishMapsComponent, { finish: 'gold' });
});

describe('the maps of a finish', () => {
  it('come one over the other, are brought up and down, and undone', async () => {
    await press('Noise');
    await press('Wear');
    const kinds = () => layersOf(finish(), 'baseColor').map(([, { source }]) => source.kind);
    expect(kinds()).toEqual(['noise', 'wear']);
    await press('Noise: billowing further up');
    expect(kinds()).toEqual(['wear', 'noise']);
    studio.undo();
    expect(kinds()).toEqual(['noise', 'wear']);
    await page.fixture.whenStable();
    await press('Take Wear: edges off Base colour');
    expect(kinds()).toEqual(['noise']);
  });

  it('are left out and used again', async () => {
    await press('Facing');
    await press('Leave out Facing');
    expect(layersOf(finish(), 'baseColor')[0]![1].muted).toBe(true);
    await press('Use Facing');
    expect(layersOf(finish(), 'baseColor')[0]![1].muted).toBe(false);
  });

  it('of a picture show its own colours where it is the first', async () => {
    studio.edit('Colour', (draft) => void (draft.finishes['gold']!.baseColor = [0.1, 0.2, 0.3]));
    await press(/Sign/);
    expect(finish().baseColor).toEqual([1, 1, 1]);
    expect(layersOf(finish(), 'baseColor')[0]![1]).toMatchObject({ source: { picture: 'sign' }, coding: 'srgb' });
  });

  it('become colours, of which there can be more and fewer', async () => {
    await press('Gradient');
    await press('Give it colours…');
    const shades = () => layersOf(finish(), 'baseColor')[0]![1].shades;
    expect(shades()).toHaveLength(2);
    await press('Add a colour');
    expect(shades()!.map(({ at }) => at)).toEqual([0, 0.5, 1]);
    await press('Remove colour 2');
    expect(shades()).toHaveLength(2);
    await press('Without colours');
    expect(shades()).toBeNull();
  });

  it('of a picture cut the finish out by what they show, and lie once over what has no coordinates', async () => {
    const [part] = Object.values(studio.document().nodes).filter((node) => node.mesh && node.finish === 'gold');
    const key = meshKey(part!.mesh!);
    const bounds = TestBed.inject(SceneBounds);
    bounds.meshes.set(new Map([[key, { low: [-100, 0, -1], high: [100, 60, 1] }]]));
    bounds.bare.set(new Set([key]));
    await press(/Put Sign on it|Sign/);
    const [id, map] = layersOf(finish(), 'baseColor')[0]!;
    expect(map).toMatchObject({ projection: 'box', position: [0, 30, 0], size: [200, 60, 200], coding: 'srgb' });
    await press('Cut out by brightness');
    const cut = layersOf(finish(), 'geometryOpacity')[0]![1];
    expect(cut).toMatchObject({ channel: 'brightness', coding: 'linear', projection: 'box', size: [200, 60, 200] });
    expect(pictureOfSource(cut.source)).toBe('sign');
    expect(finish().maps[id]!.slot).toBe('baseColor');
    studio.undo();
    expect(layersOf(finish(), 'geometryOpacity')).toEqual([]);
  });

  it('that are taken off leave no keys behind', async () => {
    await press('Noise');
    const [id] = layersOf(finish(), 'baseColor')[0]!;
    const path = `finishes/gold/maps/${id}/source/scale`;
    studio.edit('Key', (draft) => {
      draft.shots['one']!.tracks[path] = [{ frame: 1, value: 2, pace: 'linear' }];
    });
    expect(studio.document().shots['one']!.tracks[path]).toHaveLength(1);
    await press('Take Noise: billowing off Base colour');
    expect(studio.document().shots['one']!.tracks[path]).toBeUndefined();
  });
});
