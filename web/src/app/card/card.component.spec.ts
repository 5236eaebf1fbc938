import { within } from '@testing-library/dom';
import { choose } from '../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultRecipe, newAsset } from '@zippy/core/document';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { Revisions } from '../tasks/revision/revisions';
import { Models } from '../store/edits/models';
import { PickingTask } from '../store/picking';
import type { Studio } from '../store/studio';
import { CardComponent } from './card.component';

let studio: Studio;
let page: Mounted<CardComponent>;
const shown = async () => {
  await page.fixture.whenStable();
  return page.show;
};
const node = (id: string) => studio.document().nodes[id]!;

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  localStorage.removeItem('zippy-fields-used');
  studio = openStudio();
  page = await mount(CardComponent);
});

describe('the card', () => {
  it('says what to do where nothing is selected', () => {
    expect(page.host.textContent).toContain('Nothing is selected');
    expect(page.show.queryByLabelText('Delete')).toBeNull();
  });

  it.each([
    ['node', 'knob', 'Knob'],
    ['light', 'key', 'Key'],
    ['camera', 'eye', 'Eye'],
    ['finish', 'gold', 'Gold'],
    ['shot', 'one', 'One'],
  ] as const)('names a %s and renames it', async (kind, id, name) => {
    studio.select(kind, id);
    const title = (await shown()).getByLabelText<HTMLInputElement>('Name');
    expect(title.value).toBe(name);
    await page.user.clear(title);
    await page.user.type(title, 'Other{Enter}');
    expect((await shown()).getByLabelText<HTMLInputElement>('Name').value).toBe('Other');
    studio.undo();
    expect((await shown()).getByLabelText<HTMLInputElement>('Name').value).toBe(name);
  });

  it('shows of a part the finish it wears, and on how many parts that is', async () => {
    studio.select('node', 'knob');
    expect((await shown()).getByText('Gold · on 1 part')).toBeTruthy();
    studio.edit('Finish', (draft) => void (draft.nodes['lid']!.finish = 'gold'));
    expect((await shown()).getByText('Gold · on 2 parts')).toBeTruthy();
    studio.select('node', 'shell');
    expect((await shown()).queryByText(/Gold ·/)).toBeNull();
  });

  it('changes all that is selected together, as one step, and says where values differ', async () => {
    studio.setProperty('Place', 'nodes/knob/position', [1, 2, 3]);
    studio.setProperty('Place', 'nodes/lid/position', [1, 5, 6]);
    studio.select('node', 'lid');
    studio.select('node', 'knob', true);
    const field = (label: string) => page.show.getByLabelText<HTMLInputElement>(label);
    await shown();
    expect(page.show.getByRole('heading', { name: '2 parts' })).toBeTruthy();
    expect(page.show.queryByLabelText('Name')).toBeNull();
    expect([field('Position X').value, field('Position Y').value, field('Position Y').placeholder]).toEqual(['1', '', 'differs']); // prettier-ignore
    await page.user.type(field('Position Y'), '8{Enter}');
    expect([node('knob')!.position, node('lid')!.position]).toEqual([[1, 8, 3], [1, 8, 6]]); // prettier-ignore
    expect(node('shell')!.position[1]).not.toBe(8);
    studio.undo();
    expect([node('knob')!.position[1], node('lid')!.position[1]]).toEqual([2, 5]);
    // The same value as that of the last one is a change for the other.
    await shown();
    await page.user.type(field('Position Y'), '2{Enter}');
    expect(node('lid')!.position).toEqual([1, 2, 6]);
    await choose(page.user, page.show.getByRole('combobox', { name: 'Finish' }), 'Gold');
    expect([node('knob')!.finish, node('lid')!.finish]).toEqual(['gold', 'gold']);
    expect((await shown()).getByText('Gold · on 2 parts')).toBeTruthy();
    await page.user.click(page.show.getByLabelText('Set key of Glow'));
    expect(Object.keys(studio.shot()!.tracks).sort()).toEqual(['nodes/knob/glow', 'nodes/lid/glow']);
    studio.undo();
    expect(studio.shot()!.tracks).toEqual({});
  });

  it('shows of different things what they share', async () => {
    studio.select('light', 'lamp');
    studio.select('light', 'key', true);
    const labels = () => [...page.fixture.nativeElement.querySelectorAll('zr-property .label')].map((each: HTMLElement) => each.textContent); // prettier-ignore
    await shown();
    expect(labels()).toContain('Power');
    await page.user.click(page.show.getByRole('switch', { name: 'Shadows' }));
    const { lights } = studio.document();
    expect(lights['lamp']!.castsShadows).toBe(lights['key']!.castsShadows);
    studio.select('node', 'knob', true);
    await shown();
    expect(labels()).toEqual(['Position', 'By the camera', 'Throws shadow']);
    expect(page.show.getByRole('heading', { name: '3 things' })).toBeTruthy();
  });

  it('finds a field by words, and remembers which groups are folded', async () => {
    localStorage.removeItem('zippy-folded');
    studio.select('light', 'key');
    await shown();
    const labels = () => [...page.fixture.nativeElement.querySelectorAll('zr-property .label')].map((each: HTMLElement) => each.textContent); // prettier-ignore
    const group = (title: string) => page.show.getByRole('button', { name: title });
    const whole = labels().length;
    await page.user.type(page.show.getByLabelText('Find a field'), 'size wid');
    await shown();
    expect(labels()).toEqual(['Width']);
    await page.user.clear(page.show.getByLabelText('Find a field'));
    await shown();
    expect(labels()).toHaveLength(whole);
    await page.user.click(group('Light'));
    studio.select('light', 'lamp');
    await shown();
    const open = (title: string) => group(title).getAttribute('aria-expanded');
    expect([open('Light'), open('Size and place')]).toEqual(['false', 'true']);
    // What is sought is shown wherever it is.
    await page.user.type(page.show.getByLabelText('Find a field'), 'power');
    await shown();
    expect(open('Light')).toBe('true');
    localStorage.removeItem('zippy-folded');
  });

  it('puts first what is changed most, and not under the hand that changes it', async () => {
    studio.select('light', 'key');
    await shown();
    const labels = () => [...page.fixture.nativeElement.querySelectorAll('zr-property .label')].map((each: HTMLElement) => each.textContent); // prettier-ignore
    const whole = labels();
    for (const typed of ['10', '20', '30']) {
      const power = page.show.getByLabelText('Power');
      await page.user.clear(power);
      await page.user.type(power, `${typed}{Enter}`);
      await page.user.click(page.show.getByRole('switch', { name: 'In picture' }));
    }
    await page.user.click(page.show.getByRole('switch', { name: 'In picture' }));
    expect(labels()).toEqual(whole);
    studio.select('light', 'lamp');
    await shown();
    expect(labels().slice(0, 2)).toEqual(['In picture', 'Power']);
    expect(new Set(labels()).size).toBe(labels().length);
    // Names that several groups use are told apart.
    studio.select('finish', 'gold');
    for (const typed of ['0.2', '0.3', '0.4']) {
      await shown();
      const amount = page.show.getAllByLabelText('Amount')[1]!;
      await page.user.clear(amount);
      await page.user.type(amount, `${typed}{Enter}`);
    }
    expect(studio.document().finishes['gold']!.coatWeight).toBe(0.4);
    studio.select('light', 'key');
    studio.select('finish', 'gold');
    await shown();
    expect(labels()[0]).toBe('Coat: amount');
    expect(page.show.getByRole('textbox', { name: 'Coat: amount' })).toHaveProperty('value', '0.4');
  });

  it('shows where a part lies in the tree, and leads there and to its neighbours', async () => {
    studio.select('node', 'knob');
    const place = () => within(page.show.getByRole('navigation', { name: 'Place in the tree' }));
    await shown();
    await page.user.click(place().getByRole('button', { name: /Next part/ }));
    expect(studio.primary()!.id).toBe('lid');
    await shown();
    expect(place().getByText('At the top of the tree')).toBeTruthy();
    await page.user.click(place().getByRole('button', { name: /Part before/ }));
    await shown();
    await page.user.click(place().getByRole('button', { name: 'Box' }));
    expect(studio.primary()!.id).toBe('box');
  });

  it('deletes all that is selected', async () => {
    studio.select('node', 'knob');
    studio.select('node', 'lid', true);
    await shown();
    await page.user.click(page.show.getByLabelText('Delete'));
    expect([node('knob'), node('lid')]).toEqual([undefined, undefined]);
    expect(node('shell')).toBeDefined();
  });

  it('changes the pace of all keys that are picked', async () => {
    const track = 'lights/key/power';
    for (const frame of [1, 9]) {
      studio.goTo(frame);
      studio.toggleKeys([track]);
    }
    studio.pickKeys([1, 9].map((frame) => ({ path: track, frame })));
    expect((await shown()).getByText('2 keys')).toBeTruthy();
    await choose(page.user, page.show.getByLabelText('Pace'), 'Held');
    expect(studio.shot()!.tracks[track]!.map(({ pace }) => pace)).toEqual(['held', 'held']);
  });
});

describe('copies on the card', () => {
  it('begin with a kind, are counted, change their number, and end', async () => {
    studio.select('node', 'lid');
    await page.user.click((await shown()).getByRole('button', { name: 'Copies' }));
    await choose(page.user, (await shown()).getByRole('combobox', { name: 'Copies' }), 'In a ring');
    expect(node('lid').copies?.kind).toBe('ring');
    const count = (await shown()).getByLabelText<HTMLInputElement>('Count');
    await page.user.clear(count);
    await page.user.type(count, '7{Enter}');
    expect((await shown()).getByText('Copies · 7')).toBeTruthy();
    await choose(page.user, page.show.getByRole('combobox', { name: 'Copies' }), 'None');
    expect(node('lid').copies).toBeNull();
    expect((await shown()).queryByText('Make parts of their own')).toBeNull();
  });

  it('become parts of their own', async () => {
    studio.select('node', 'lid');
    await page.user.click((await shown()).getByRole('button', { name: 'Copies' }));
    await choose(page.user, (await shown()).getByRole('combobox', { name: 'Copies' }), 'In a line');
    const before = Object.keys(studio.document().nodes).length;
    await page.user.click((await shown()).getByText('Make parts of their own'));
    expect(Object.keys(studio.document().nodes).length).toBeGreaterThan(before);
    expect(Object.values(studio.document().nodes).every(({ copies }) => copies === null)).toBe(true);
  });
});

describe('the turning point on the card', () => {
  it.each([
    ['Picked point', 'point'],
    ['Round face', 'axis'],
    ['Other part', 'part'],
  ])('asks the picture for it: %s', async (label, kind) => {
    studio.select('node', 'knob');
    await page.user.click((await shown()).getByRole('button', { name: label }));
    expect(TestBed.inject(PickingTask).task()?.kind).toBe(kind);
    expect((await shown()).getByRole('button', { name: label }).getAttribute('aria-pressed')).toBe('true');
  });
});

describe('the mesh on the card', () => {
  const model = (over = {}) =>
    studio.edit('Model', (draft) => {
      draft.assets['m'] = newAsset({
        id: 'm',
        name: 'Box',
        kind: 'model',
        hash: 'a'.repeat(64),
        sourceName: 'box.step',
        recipe: defaultRecipe(),
        found: { inverted: { 0: 12 }, open: { 0: 1 } },
        ...over,
      });
    });

  it('is not there for parts of no model', async () => {
    studio.select('node', 'knob');
    expect((await shown()).queryByText(/Mesh of/)).toBeNull();
  });

  it('says what was found and done, and lets each be undone', async () => {
    model();
    const mend = vi.spyOn(TestBed.inject(Models), 'setMend').mockResolvedValue(undefined);
    studio.select('node', 'shell');
    expect((await shown()).getByText('12 triangles were inside out and were turned over.')).toBeTruthy();
    expect(page.show.getByText(/^1 edge is open/)).toBeTruthy();
    await page.user.click(page.show.getByRole('button', { name: 'Undo' }));
    expect(mend).toHaveBeenCalledWith(node('shell'), 'orientation', false);
    model({ recipe: { ...defaultRecipe(), leave: { orientation: [0] } } });
    expect((await shown()).getByText('12 triangles were inside out. Left as they came.')).toBeTruthy();
    await page.user.click(page.show.getByRole('button', { name: 'Mend' }));
    expect(mend).toHaveBeenLastCalledWith(node('shell'), 'orientation', true);
    studio.select('node', 'knob');
    expect((await shown()).getByText('Nothing was wrong with it.')).toBeTruthy();
  });

  it('cuts solids finer, and meshes not at all', async () => {
    model();
    const rebuild = vi.spyOn(TestBed.inject(Models), 'rebuild').mockResolvedValue(undefined);
    studio.select('node', 'shell');
    await choose(page.user, (await shown()).getByRole('combobox', { name: 'Rounds' }), /^fine/);
    expect(rebuild).toHaveBeenCalledWith(studio.document().assets['m'], expect.objectContaining({ chord: 0.02 }), 'Rounds'); // prettier-ignore
    model({ sourceName: 'box.stl' });
    expect((await shown()).queryByLabelText('Rounds')).toBeNull();
  });

  it('takes a new revision of its file', async () => {
    model();
    const bring = vi.spyOn(TestBed.inject(Revisions), 'bring').mockResolvedValue(undefined);
    studio.select('node', 'shell');
    await shown();
    const file = new File(['x'], 'box-2.step');
    await page.user.upload(page.host.querySelector<HTMLInputElement>('zr-mesh-report input[type=file]')!, file);
    expect(bring).toHaveBeenCalledWith(studio.document().assets['m'], [file]);
  });
});
