import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import type { Take } from '@zippy/core/wire';
import { Notices } from '../store/notices';
import type { Studio } from '../store/studio';
import { TakesActions } from '../store/takes/takes.actions';
import { LightBalanceComponent } from './light-balance.component';

const server = { takeLayers: vi.fn() };
let studio: Studio;
let page: Mounted<LightBalanceComponent>;
const take = (over: object) => ({ id: 't', number: 1, shot: 'one', done: [1], settings: { layers: ['lights'] }, ...over }) as unknown as Take; // prettier-ignore
const open = async (view: Take) => {
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [view] }));
  page = await mount(LightBalanceComponent, { take: 't' });
  await page.fixture.whenStable();
};
const lights = () => studio.document().takeLooks['t']!.lights;
async function type(label: string, text: string): Promise<void> {
  const field = page.show.getByLabelText(label);
  await page.user.clear(field);
  await page.user.type(field, `${text}{Enter}`);
  await page.fixture.whenStable();
}

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  server.takeLayers.mockReset();
  server.takeLayers.mockResolvedValue(['depth', 'light:Key', 'light:Back_lamp']);
  studio = openStudio(server);
  studio.edit('Look', (draft) => void (draft.takeLooks['t'] = structuredClone(studio.document().look)));
});

describe('the lights of a take', () => {
  it('are changed on its frames and come back', async () => {
    await open(take({}));
    await type('Power of Back lamp', '0.5');
    expect(lights()).toEqual({ Back_lamp: { power: 0.5, tint: [1, 1, 1] } });
    await page.user.click(page.show.getByRole('button', { name: 'As rendered' }));
    expect(lights()).toEqual({});
  });

  it('are written back to the lights of the project, and what is gone is told', async () => {
    await open(take({}));
    const { power } = studio.document().lights['key']!;
    await type('Power of Key', '2');
    await page.user.click(page.show.getByRole('button', { name: 'Write back to the lights' }));
    expect(studio.document().lights['key']!.power).toBe(power * 2);
    await page.fixture.whenStable();
    expect(page.show.getByRole<HTMLButtonElement>('button', { name: 'Write back to the lights' }).disabled).toBe(true);
    await type('Power of Back lamp', '3');
    await page.user.click(page.show.getByRole('button', { name: 'Write back to the lights' }));
    expect(TestBed.inject(Notices).notice()).toContain('except "Back lamp"');
    expect(studio.document().lights['key']!.power).toBe(power * 2);
  });

  it('are not there where the take keeps none apart, or has no frame yet', async () => {
    await open(take({ settings: { layers: [] } }));
    expect(page.host.textContent).toContain('keeps no light apart');
    await open(take({ done: [] }));
    expect(server.takeLayers).not.toHaveBeenCalled();
  });

  it('that cannot be read are told', async () => {
    server.takeLayers.mockRejectedValue(new Error('The server is not there.'));
    await open(take({}));
    expect(TestBed.inject(Notices).notice()).toContain('The server is not there.');
    // They are asked for again when the take goes on.
    server.takeLayers.mockResolvedValue(['light:Key']);
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [take({ state: 'done' })] }));
    await page.fixture.whenStable();
    await page.fixture.whenStable();
    expect(page.show.getByLabelText('Power of Key')).toBeTruthy();
  });
});
