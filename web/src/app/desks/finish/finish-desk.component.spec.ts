import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose } from '../../../testing/controls';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../../store/studio';
import { FinishDeskComponent } from './finish-desk.component';
import { Notices } from '../../store/notices';
import { SmallPictures } from '../small-pictures/small-pictures';

let studio: Studio;
let page: Mounted<FinishDeskComponent>;
let wanted: ReturnType<typeof vi.fn>;
const tiles = () => page.component.found().map(({ finish }) => finish.name);

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  wanted = vi.fn();
  studio = openStudio({}, [
    { provide: SmallPictures, useValue: { want: wanted, of: () => 'blob:x', rest: () => undefined } },
  ]);
  page = await mount(FinishDeskComponent);
});

describe('the shelf', () => {
  it('is narrowed by words, by what things are made of and by colour, and shown whole again', async () => {
    const whole = tiles().length;
    await page.user.type(page.show.getByLabelText('Find a finish'), 'walnut');
    await page.fixture.whenStable();
    expect(tiles()).toEqual(expect.arrayContaining(['Walnut', 'Walnut, lacquered']));
    expect(tiles().length).toBeLessThan(6);
    await page.user.clear(page.show.getByLabelText('Find a finish'));
    await choose(page.user, page.show.getByRole('combobox', { name: 'Made of' }), /^Stone/);
    expect(tiles()).toContain('Green marble');
    expect(tiles()).not.toContain('Walnut');
    await page.user.click(page.show.getByRole('button', { name: 'Violet' }));
    await page.fixture.whenStable();
    expect(tiles()).toEqual([]);
    await page.user.click(page.show.getByRole('button', { name: /Show all/ }));
    await page.fixture.whenStable();
    expect(tiles().length).toBe(whole);
  });

  it('puts what is clicked on what is selected', async () => {
    studio.select('node', 'lid');
    await page.user.click(page.show.getByRole('button', { name: 'Cork' }));
    const worn = studio.document().nodes['lid']!.finish!;
    expect(studio.document().finishes[worn]!.name).toBe('Cork');
  });

  it('says what to do where a finish is clicked and nothing is selected', async () => {
    await page.user.click(page.show.getByRole('button', { name: 'Cork' }));
    expect(TestBed.inject(Notices).news()).toMatch(/Select the parts that shall wear "Cork" first/);
    expect(Object.keys(studio.document().finishes)).toEqual(['gold']);
  });

  it('has pictures drawn of what the project wears, and anew once that changes', async () => {
    const looks = () => [...(wanted.mock.lastCall![1] as Map<string, unknown>).keys()];
    const before = looks();
    expect(before).toHaveLength(1);
    studio.setProperty('Rougher', 'finishes/gold/specularRoughness', 0.9);
    await page.fixture.whenStable();
    expect(looks()).toHaveLength(1);
    expect(looks()).not.toEqual(before);
    studio.edit('Rename', (draft) => void (draft.finishes['gold']!.name = 'Brass'));
    await page.fixture.whenStable();
    studio.setProperty('Back', 'finishes/gold/specularRoughness', 0.35);
    await page.fixture.whenStable();
    expect(looks()).toEqual(before);
  });

  it('holds up to three finishes beside each other, one of the project as it was then', async () => {
    const [own] = page.show.getAllByRole('button', { name: 'Hold up Gold' });
    await page.user.click(own!);
    studio.setProperty('Rougher', 'finishes/gold/specularRoughness', 0.9);
    await page.fixture.whenStable();
    // Before and after, each on two grounds, and in the list.
    expect((wanted.mock.lastCall![1] as Map<string, unknown>).size).toBe(3);
    for (const name of ['Cork', 'Slate', 'Milk'])
      await page.user.click(page.show.getByRole('button', { name: `Hold up ${name}` }));
    await page.fixture.whenStable();
    expect(page.component.compared().map(({ name }) => name)).toEqual(['Cork', 'Slate', 'Milk']);
    await page.user.click(page.show.getByRole('button', { name: 'Put Slate back' }));
    expect(page.component.compared().map(({ name }) => name)).toEqual(['Cork', 'Milk']);
  });
});
