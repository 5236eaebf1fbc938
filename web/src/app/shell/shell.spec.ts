import { hintOf } from '../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { OverlayContainer } from '@angular/cdk/overlay';
import { Store } from '@ngrx/store';
import { within } from '@testing-library/dom';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually, mount } from '../../testing/mount';
import { openStudio, sampleTake } from '../../testing/studioBed';
import { ServerLost } from '../api/api';
import { Ask } from '../ui/ask/ask';
import { Notices } from '../store/notices';
import { Session } from '../store/session';
import { TakesActions } from '../store/takes/takes.actions';
import { ProjectActions } from '../store/project/project.actions';
import type { Studio } from '../store/studio';
import { HeaderComponent } from './header.component';
import { RailComponent } from './rail.component';

const server = { projects: vi.fn(), versions: vi.fn(), keepVersion: vi.fn(), saveEdits: vi.fn() };
let studio: Studio;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockResolvedValue({ revision: 2 });
  server.projects.mockResolvedValue([
    { id: 'sample', name: 'Sample', revision: 1, updatedAt: 0 },
    { id: 'other', name: 'Lantern', revision: 4, updatedAt: 0 },
  ]);
  server.versions.mockResolvedValue([{ id: 'v1', name: 'Client look', revision: 1, createdAt: 0 }]);
  studio = openStudio(server);
});
afterEach(() => TestBed.inject(OverlayContainer).ngOnDestroy());

describe('the header', () => {
  const menu = async () => {
    const page = await mount(HeaderComponent);
    await page.user.click(page.show.getByRole('button', { name: studio.document().name }));
    await page.fixture.whenStable();
    const items = within(TestBed.inject(OverlayContainer).getContainerElement());
    // A menu that was left stays behind the next one, as nothing here ends its fading.
    return (name: string) => page.user.click(items.getAllByRole('menuitem', { name }).at(-1)!);
  };

  it('undoes and redoes by name', async () => {
    const { fixture, show, user } = await mount(HeaderComponent);
    const [undo, redo] = ['Undo', 'Redo'].map((name) => show.getByLabelText<HTMLButtonElement>(name));
    expect([undo!.disabled, redo!.disabled]).toEqual([true, true]);
    studio.setProperty('Power', 'lights/key/power', 5);
    await fixture.whenStable();
    expect(hintOf(undo!)).toBe('Undo Power');
    await user.click(undo!);
    await fixture.whenStable();
    expect([studio.document().lights['key']!.power, hintOf(redo!)]).toEqual([900, 'Redo Power']);
    await user.click(redo!);
    expect(studio.document().lights['key']!.power).toBe(5);
  });

  it('says whether the work is safe', async () => {
    const { fixture, show } = await mount(HeaderComponent);
    expect(show.getByRole('status').textContent).toBe('saved');
    studio.setProperty('Power', 'lights/key/power', 5);
    await fixture.whenStable();
    expect(show.getByRole('status').textContent).toBe('saving…');
    TestBed.inject(Store).dispatch(ProjectActions.serverLost());
    await fixture.whenStable();
    expect(show.getByRole('status').textContent).toBe('server lost · changes are kept here');
  });

  it('shows what renders, and the way there', async () => {
    const { fixture, show, user } = await mount(HeaderComponent);
    expect(show.getByRole('button', { name: 'Nothing renders' })).toBeTruthy();
    const take = sampleTake({ number: 3, state: 'rendering', first: 11, last: 20, done: [11, 12] });
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ id: 'old' }), take] }));
    await fixture.whenStable();
    await user.click(show.getByText('2 of 10'));
    expect(studio.desk()).toBe('render');
  });

  it('opens another project, and goes back to a version', async () => {
    const session = TestBed.inject(Session);
    const open = vi.spyOn(session, 'open').mockResolvedValue(undefined);
    const back = vi.spyOn(session, 'restoreVersion').mockResolvedValue(undefined);
    await (
      await menu()
    )('Lantern');
    expect(open).toHaveBeenCalledWith('other');
    await (
      await menu()
    )('Go back to "Client look"');
    expect(back).toHaveBeenCalledWith('v1');
  });

  it('says so where the server does not answer', async () => {
    server.projects.mockRejectedValue(new ServerLost());
    await menu();
    expect(TestBed.inject(Notices).notice()).toMatch(/does not answer/);
  });

  it('keeps a version under a name, after what is not saved', async () => {
    const order: string[] = [];
    server.saveEdits.mockImplementation(async () => (order.push('save'), { revision: 2 }));
    server.keepVersion.mockImplementation(async (_: string, name: string) => void order.push(name));
    studio.setProperty('Power', 'lights/key/power', 5);
    vi.spyOn(TestBed.inject(Ask), 'name').mockResolvedValue('Warm');
    await (
      await menu()
    )('Keep this state as a version');
    await eventually(() => expect(order).toEqual(['save', 'Warm']));
  });

  it('deletes a project only after it was asked', async () => {
    const remove = vi.spyOn(TestBed.inject(Session), 'removeProject').mockResolvedValue(undefined);
    const sure = vi.spyOn(TestBed.inject(Ask), 'sure').mockResolvedValueOnce(false).mockResolvedValueOnce(true);
    await (
      await menu()
    )('Delete this project');
    expect(remove).not.toHaveBeenCalled();
    await (
      await menu()
    )('Delete this project');
    await eventually(() => expect(remove).toHaveBeenCalledTimes(1));
    expect(sure.mock.calls[0]![0]).toBe('Delete "Sample"?');
  });
});

describe('the rail', () => {
  it('goes to desks, and marks those where something will spoil the film', async () => {
    const { show, fixture, user } = await mount(RailComponent);
    const desk = (name: RegExp) => show.getByRole('button', { name });
    expect(desk(/Model/).getAttribute('aria-current')).toBe('page');
    await user.click(desk(/Camera/));
    await fixture.whenStable();
    expect([studio.desk(), desk(/Camera/).getAttribute('aria-current')]).toEqual(['camera', 'page']);
    expect([hintOf(desk(/Finish/)), hintOf(desk(/Camera/))]).toEqual(['2 parts have no finish', 'Camera (5)']);
    studio.edit('Camera', (draft) => void (draft.shots['two']!.camera = null));
    await fixture.whenStable();
    expect(hintOf(desk(/Camera/))).toBe('"Two" has no camera');
    expect(show.getAllByLabelText('1 to look at')).toHaveLength(2);
  });
});
