import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose } from '../../testing/controls';
import { eventually, mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { ExposureMeter } from '../store/exposure-meter';
import { Notices } from '../store/notices';
import type { Studio } from '../store/studio';
import { Ask } from '../ui/ask/ask';
import { LookToolsComponent } from './look-tools.component';

let studio: Studio;
let page: Mounted<LookToolsComponent>;
const ready = () => page.show.getByLabelText('Ready look');
const button = (name: string | RegExp) => page.show.getByRole('button', { name });

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  page = await mount(LookToolsComponent, { at: 'look' });
});

describe('looks', () => {
  it('that are ready replace all of the one before, in one step', async () => {
    expect(page.component.worn()).toBe('plain');
    await choose(page.user, ready(), 'Silver');
    expect(studio.document().look).toMatchObject({ saturation: 0, tone: 'strong' });
    await choose(page.user, ready(), 'Catalogue');
    expect(studio.document().look).toMatchObject({ saturation: 1, tone: 'trueColor', grain: 0 });
    studio.undo();
    studio.undo();
    expect(page.component.worn()).toBe('plain');
  });

  it('of ones own are kept, worn again and forgotten; lights of a take stay with it', async () => {
    studio.edit('Look', (draft) => {
      draft.look.vignette = 0.4;
      draft.takeLooks['t'] = {
        ...structuredClone(studio.document().look),
        lights: { Key: { power: 2, tint: [1, 1, 1] } },
      };
    });
    await page.fixture.whenStable();
    vi.spyOn(TestBed.inject(Ask), 'name').mockResolvedValue('Dark corners');
    await page.user.click(button('Keep this look'));
    await page.fixture.whenStable();
    expect(ready().textContent).toContain('Dark corners');
    page = await mount(LookToolsComponent, { at: 'takeLooks/t' });
    await choose(page.user, ready(), 'Dark corners');
    expect(studio.document().takeLooks['t']).toMatchObject({ vignette: 0.4, lights: { Key: { power: 2 } } });
    await page.user.click(button('Forget "Dark corners"'));
    expect(studio.document().looks).toEqual({});
    expect(studio.document().takeLooks['t']!.vignette).toBe(0.4);
  });

  it('of a take become that of the project', async () => {
    studio.edit(
      'Look',
      (draft) => void (draft.takeLooks['t'] = { ...structuredClone(studio.document().look), grain: 0.3 }),
    );
    page = await mount(LookToolsComponent, { at: 'takeLooks/t' });
    await page.user.click(button('Look of the project'));
    expect(studio.document().look.grain).toBe(0.3);
    await page.fixture.whenStable();
    expect(page.show.queryByRole('button', { name: 'Look of the project' })).toBeNull();
  });

  it('are exposed by the picture once, and say where there is none', async () => {
    const meter = TestBed.inject(ExposureMeter);
    await page.user.click(button('Expose by the picture'));
    await eventually(() => expect(TestBed.inject(Notices).notice()).toContain('no picture to expose by'));
    meter.ask = async () => 1.337;
    await page.user.click(button('Expose by the picture'));
    await eventually(() => expect(studio.document().look.exposure).toBe(1.34));
    meter.ask = async () => 100;
    await page.user.click(button('Expose by the picture'));
    await eventually(() => expect(studio.document().look.exposure).toBe(20));
  });
});
