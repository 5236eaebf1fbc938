import { beforeEach, describe, expect, it, vi } from 'vitest';
import { layersOf, newAsset } from '@zippy/core/document';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
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
