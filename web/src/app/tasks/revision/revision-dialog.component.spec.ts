import { choose } from '../../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultRecipe, newAsset } from '@zippy/core/document';
import { IDENTITY } from '@zippy/core/geometry';
import { matchParts, type PresentPart, type RevisionPart } from '@zippy/core/intake';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import { RevisionDialogComponent } from './revision-dialog.component';
import { Revisions } from './revisions';

const part = (name: string, mesh: number, size: number): PresentPart & RevisionPart => ({
  nodes: [name.toLowerCase()],
  name,
  path: name,
  mesh,
  place: [...IDENTITY],
  shape: { area: size, volume: size, moments: [size, size, size] },
});
const before = [part('Shell', 0, 10), part('Knob', 1, 20), part('Lid', 2, 30), part('Grip', 3, 40)];
/** The shell as it was, the knob changed, the lid gone, the grip under another name, a foot new. */
const after = [part('Shell', 0, 10), part('Knob', 1, 25), part('Handle', 2, 40), part('Foot', 3, 90)];
let revisions: Revisions;
let page: Mounted<RevisionDialogComponent>;
const rows = () =>
  page.show
    .getAllByRole('row')
    .slice(1)
    .map((row) => {
      const [now, next, became] = [...row.querySelectorAll('td')];
      const name = next!.querySelector('.mat-mdc-select-value')?.textContent ?? next!.textContent;
      return [now!.textContent!.trim(), name.trim(), became!.querySelector('b')!.textContent];
    });

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  openStudio({ meshUrl: (hash: string, mesh: number) => `/meshes/${hash}/${mesh}.png` });
  revisions = TestBed.inject(Revisions);
  revisions.view.set({
    asset: newAsset({ id: 'model', name: 'Box', kind: 'model', hash: 'a' }),
    file: 'box-2.step',
    recipe: defaultRecipe(),
    model: { hash: 'b', sourceHash: 'c', companions: [], found: {}, pictures: [], tree: { nodes: [], finishes: [], center: [0, 0, 0], bottom: 0, size: [10, 20, 30], middles: [] } }, // prettier-ignore
    before,
    after,
    matches: matchParts(before, after),
  });
  page = await mount(RevisionDialogComponent);
});

describe('the table of a new revision', () => {
  it('counts what became of the parts, and lists first what needs a look', () => {
    expect(page.show.getByRole('heading').textContent).toBe('box-2.step in the place of Box');
    expect(page.host.querySelector('p')!.textContent).toContain('1 changed, 1 gone, 1 new, 2 the same.');
    expect(rows()).toEqual([
      ['Knob', 'Knob', 'Changed'],
      ['Lid', 'none', 'Gone'],
      ['', 'Foot', 'New'],
      ['Grip', 'Handle', 'The same'],
      ['Shell', 'Shell', 'The same'],
    ]);
    expect(page.host.textContent).toContain('known by its shape');
    const [knob] = page.host.querySelectorAll('img');
    expect(knob!.getAttribute('src')).toBe('/meshes/a/1.png');
  });

  it('is corrected by hand: the part that took the place of another is free again', async () => {
    await choose(page.user, page.show.getByLabelText('New part for Lid'), 'Foot');
    await page.fixture.whenStable();
    expect(rows()).toContainEqual(['Lid', 'Foot', 'Changed']);
    expect(page.host.textContent).toContain('known by hand');
    await choose(page.user, page.show.getByLabelText('New part for Grip'), 'none');
    await page.fixture.whenStable();
    expect(rows()).toContainEqual(['Grip', 'none', 'Gone']);
    expect(rows()).toContainEqual(['', 'Handle', 'New']);
  });

  it('asks whether what is gone stays and what is new comes in', async () => {
    const gone = page.show.getByLabelText<HTMLInputElement>('keep it as it was');
    const fresh = page.show.getByLabelText<HTMLInputElement>('bring it in');
    expect([gone.checked, fresh.checked]).toEqual([false, true]);
    await page.user.click(gone);
    await page.user.click(fresh);
    const kept = revisions.rows().filter(({ state }) => state === 'gone' || state === 'new');
    expect(kept.map(({ state, match }) => [state, match.keep])).toEqual(expect.arrayContaining([['gone', true], ['new', false]])); // prettier-ignore
  });

  it('is left without a change, or taken', async () => {
    const take = vi.spyOn(revisions, 'take').mockReturnValue(undefined);
    await page.user.click(page.show.getByRole('button', { name: 'Take the new revision' }));
    expect(take).toHaveBeenCalled();
    await page.user.click(page.show.getByRole('button', { name: 'Leave the model as it is' }));
    await page.fixture.whenStable();
    expect(page.show.queryByRole('dialog')).toBeNull();
  });
});
