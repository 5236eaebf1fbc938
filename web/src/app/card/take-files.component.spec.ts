import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose } from '../../testing/controls';
import { eventually, mount, type Mounted } from '../../testing/mount';
import { openStudio, sampleTake } from '../../testing/studioBed';
import { Notices } from '../store/notices';
import { ShownLayer } from '../store/shown-layer';
import { TakesActions } from '../store/takes/takes.actions';
import type { Studio } from '../store/studio';
import { TakeFilesComponent } from './take-files.component';

const server = { takeLayers: vi.fn(), state: vi.fn(), deliverFrames: vi.fn() };
let studio: Studio;
let page: Mounted<TakeFilesComponent>;
let saved: URL[];
const button = (name: string) => page.show.getByRole('button', { name });

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  localStorage.clear();
  server.takeLayers.mockReset().mockResolvedValue(['depth', 'parts']);
  server.state.mockReset().mockResolvedValue({ delivers: true });
  server.deliverFrames.mockReset().mockResolvedValue({ folder: '/films', files: 4, first: 'a-0005.png' });
  studio = openStudio(server);
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ first: 5, last: 8, done: [5, 6, 7, 8] })] })); // prettier-ignore
  studio.showTake('take', 6);
  page = await mount(TakeFilesComponent, { take: 'take' });
  saved = [];
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    saved.push(new URL(this.href));
  });
});

describe('frames as files', () => {
  it('are saved one by one and all together, in the form that is chosen, which is remembered', async () => {
    await page.user.click(button('Save frame 6'));
    await choose(page.user, page.show.getByLabelText('Form of the files'), 'TIFF, 16 bits');
    await choose(page.user, page.show.getByLabelText('What is open behind the product'), 'Black');
    await page.user.click(button('Save all 4 frames'));
    expect(saved.map(({ pathname }) => pathname)).toEqual(['/api/takes/take/frames/6/still', '/api/takes/take/stills']);
    expect(saved.map(({ searchParams }) => [searchParams.get('format'), searchParams.get('ground')])).toEqual([['png', null], ['tiff16', '#000000']]); // prettier-ignore
    expect(JSON.parse(saved[0]!.searchParams.get('look')!)).toEqual(studio.document().look);
    page = await mount(TakeFilesComponent, { take: 'take' });
    expect(page.component.form()).toBe('tiff16');
  });

  it('are never left open where the form cannot, and an EXR leaves with all there is', async () => {
    await choose(page.user, page.show.getByLabelText('Form of the files'), 'JPEG');
    await page.user.click(button('Save frame 6'));
    TestBed.inject(ShownLayer).layer.set('depth');
    await choose(page.user, page.show.getByLabelText('Form of the files'), 'EXR, all layers');
    await page.user.click(button('Save frame 6'));
    expect(saved.map(({ searchParams: asked }) => [asked.get('ground'), asked.get('layer')])).toEqual([['#ffffff', null], [null, null]]); // prettier-ignore
  });

  it('are the layer or the matte that is seen', async () => {
    const shown = TestBed.inject(ShownLayer);
    shown.layer.set('parts');
    shown.toggle('Knob');
    shown.matteSeen.set(true);
    await page.fixture.whenStable();
    expect(page.host.textContent).toContain('the matte of Knob');
    await page.user.click(button('Save frame 6'));
    expect(JSON.parse(saved[0]!.searchParams.get('matte')!)).toEqual({ of: 'parts', names: ['Knob'] });
    expect(saved[0]!.searchParams.has('layer')).toBe(false);
  });

  it('are written into the folder of the server, where it has one', async () => {
    await page.user.click(button("Into the server's folder"));
    expect(server.deliverFrames.mock.calls[0]).toEqual(['take', expect.objectContaining({ format: 'png' })]);
    await eventually(() => expect(TestBed.inject(Notices).news()).toBe('4 files written into /films, the first as a-0005.png.')); // prettier-ignore
    server.state.mockResolvedValue({ delivers: false });
    page = await mount(TakeFilesComponent, { take: 'take' });
    expect(page.show.queryByRole('button', { name: "Into the server's folder" })).toBeNull();
  });

  it('are called as the project says, and what stands for nothing is told', async () => {
    expect(page.host.textContent).toContain('Sample_One_take01_0006.png');
    const names = page.show.getByLabelText('Names of files');
    await page.user.clear(names);
    await page.user.type(names, '{{clip}-{{frame}{Enter}');
    expect(studio.document().settings.fileNames).toBe('{clip}-{frame}');
    await page.fixture.whenStable();
    expect(page.host.textContent).toContain('{clip} stands for nothing.');
    // Beyond the take the nearest frame that it has is meant.
    studio.goTo(40);
    await page.fixture.whenStable();
    expect(button('Save frame 8')).toBeTruthy();
  });
});
