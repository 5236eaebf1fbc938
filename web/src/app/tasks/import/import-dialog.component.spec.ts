import { choose } from '../../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ModelSummary } from '@zippy/core/intake';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import { ImportDialogComponent } from './import-dialog.component';
import { Importer } from './importer';

const summary: ModelSummary = {
  size: [100, 200, 50],
  unit: 'mm',
  unitReason: 'The file says so.',
  up: 'y',
  upReason: 'It stands best so.',
  parts: 3,
  triangles: 45_678,
  finishes: 0,
  solids: false,
  found: [],
  notes: [],
  along: { cameras: 0, lights: 0, moving: 0, seconds: 0 },
};
let importer: Importer;
let page: Mounted<ImportDialogComponent>;

async function found(over: Partial<ModelSummary> = {}, id = 'job'): Promise<void> {
  const job = { id, state: 'read' as const, message: '', summary: { ...summary, ...over } };
  importer.view.set({ name: 'crate.obj', step: 'read', part: 1, job });
  await page.fixture.whenStable();
}
const side = (name: string) => page.show.getByLabelText<HTMLInputElement>(`${name} in mm`);
const sides = () => ['Width', 'Height', 'Depth'].map((name) => Number(side(name).value));
const set = async (label: string, option: string | RegExp) => {
  await choose(page.user, page.show.getByLabelText(label), option);
  await page.fixture.whenStable();
};
async function type(name: string, text: string): Promise<void> {
  await page.user.clear(side(name));
  await page.user.type(side(name), `${text}{Enter}`);
  await page.fixture.whenStable();
}

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  openStudio();
  importer = TestBed.inject(Importer);
  page = await mount(ImportDialogComponent);
});

describe('the dialog of a model that was read', () => {
  it('is not there before, shows how far the file is, and lets go of it', async () => {
    expect(page.show.queryByRole('dialog')).toBeNull();
    importer.view.set({ name: 'crate.obj', step: 'sending', part: 0.25, job: null });
    await page.fixture.whenStable();
    expect(page.show.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('25');
    expect(page.show.getByRole('status').textContent).toContain('Sending the file');
    importer.view.set({ name: 'crate.obj', step: 'reading', part: 1, job: null });
    await page.fixture.whenStable();
    // How long reading takes is not known.
    expect(page.show.getByRole('progressbar').hasAttribute('aria-valuenow')).toBe(false);
    const stop = vi.spyOn(importer, 'stop').mockResolvedValue(undefined);
    await page.user.click(page.show.getByRole('button', { name: 'Stop' }));
    expect(stop).toHaveBeenCalled();
  });

  it('says how large the model is, and on what grounds', async () => {
    await found();
    expect(sides()).toEqual([100, 200, 50]);
    for (const said of ['The file says so.', 'It stands best so.', '45,678 triangles', 'long as a pencil'])
      expect(page.host.textContent).toContain(said);
    await set('Unit', 'inch');
    expect(sides()).toEqual([2540, 5080, 1270]);
    expect(page.host.textContent).toContain('Is the unit right?');
  });

  it('scales the whole model to one length, and shows lengths it cannot read as they were', async () => {
    await found();
    await type('Height', '50 mm');
    expect(sides()).toEqual([25, 50, 12.5]);
    expect(page.host.textContent).toContain('Scaled to the length you typed.');
    for (const typed of ['tall', '-3', '0', '1e999']) await type('Width', typed);
    expect(sides()).toEqual([25, 50, 12.5]);
    await type('Depth', '1,25');
    expect(page.component.recipe()).toMatchObject({ unit: 'mm', scale: 0.025 });
    // Another unit is a new beginning.
    await set('Unit', 'cm');
    expect(page.component.recipe()).toMatchObject({ unit: 'cm', scale: 1 });
  });

  it.each([
    ['y', 'X up', [200, 100, 50]],
    ['y', 'Z up', [100, 50, 200]],
    ['z', 'Y up', [100, 50, 200]],
    ['z', 'X up', [50, 100, 200]],
    ['x', 'Y up', [200, 100, 50]],
    ['x', 'Z up', [200, 50, 100]],
  ] as const)('shows the sides as they stand: measured with %s up, then %s', async (up, then, expected) => {
    await found({ up });
    await set('Up axis', then);
    expect(sides()).toEqual(expected);
  });

  it('exchanges width and depth after a quarter turn, and shows the model so', async () => {
    await found();
    await set('Turned', 'a quarter turn');
    expect(sides()).toEqual([50, 200, 100]);
    expect(page.show.getByAltText<HTMLImageElement>('The model as it will stand').src).toMatch(/up=y&front=1$/);
    await set('Turned', 'half round');
    expect(sides()).toEqual([100, 200, 50]);
  });

  it('offers what the file has: fineness of solids, cameras, lights and motion', async () => {
    await found();
    expect([page.show.queryByLabelText('Rounds'), page.show.queryByText('Came along')]).toEqual([null, null]);
    await found({ solids: true, along: { cameras: 1, lights: 2, moving: 3, seconds: 4.56 } });
    expect(page.show.getByLabelText('Rounds').textContent).toContain('within 0.08 mm');
    const along = ['1 camera', '2 lights', 'motion of 3 parts, 4.6 s'];
    const boxes = along.map((label) => page.show.getByLabelText<HTMLInputElement>(label));
    expect(boxes.map(({ checked }) => checked)).toEqual([false, false, true]);
    // Parts that are merged cannot move on their own.
    await set('Parts', 'all as one');
    expect(page.show.queryByLabelText(along[2]!)).toBeNull();
  });

  it('takes the model in as it was chosen', async () => {
    const accept = vi.spyOn(importer, 'accept').mockResolvedValue(undefined);
    await found({ solids: true, along: { cameras: 1, lights: 0, moving: 0, seconds: 0 } });
    await set('Rounds', /^Fine/);
    await set('Parts', 'one for each finish');
    await page.user.click(page.show.getByLabelText('in the middle'));
    await page.user.click(page.show.getByLabelText('1 camera'));
    await page.user.click(page.show.getByRole('button', { name: 'Take it in' }));
    const [recipe, standing, along] = accept.mock.calls[0]!;
    expect(recipe).toMatchObject({ chord: 0.02, merge: 'finish', unit: 'mm', up: 'y', scale: 1, front: 0 });
    expect(standing).toEqual({ centered: false, onFloor: true });
    expect(along).toEqual({ cameras: true, lights: false, motion: true });
  });

  it('begins anew with the next file', async () => {
    await found();
    await set('Turned', 'half round');
    await set('Parts', 'all as one');
    await type('Height', '50');
    await found({ unit: 'inch', up: 'z' }, 'next');
    expect(page.component.recipe()).toMatchObject({ unit: 'inch', up: 'z', front: 0, merge: 'parts', scale: 1 });
  });

  it('tells what was found and mended, and in how many meshes', async () => {
    await found({
      found: [
        { finding: 'inverted', count: 1200, meshes: 2 },
        { finding: 'open', count: 1, meshes: 1 },
      ],
      notes: ['A picture was missing.'],
    });
    const lines = page.show.getAllByRole('listitem').map((item) => item.textContent);
    expect(lines).toEqual([
      '1,200 triangles were inside out and were turned over (in 2 meshes).',
      '1 edge is open: nothing to mend, but glass and liquids want closed bodies (in 1 mesh).',
      'A picture was missing.',
    ]);
  });
});
