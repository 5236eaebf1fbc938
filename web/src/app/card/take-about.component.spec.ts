import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually, mount, type Mounted } from '../../testing/mount';
import { openStudio, sampleTake } from '../../testing/studioBed';
import { TakesActions } from '../store/takes/takes.actions';
import type { Studio } from '../store/studio';
import { TakeAboutComponent } from './take-about.component';

const server = { takes: vi.fn(), createTake: vi.fn(), saveEdits: vi.fn() };
const settings = {
  ...sampleTake().settings,
  width: 640,
  height: 360,
  samples: 77,
  noiseTarget: 0.02,
  motionBlur: false,
};
let studio: Studio;
let page: Mounted<TakeAboutComponent>;

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  server.saveEdits.mockReset().mockResolvedValue({ revision: 2 });
  server.takes.mockReset().mockResolvedValue([]);
  server.createTake.mockReset().mockResolvedValue(sampleTake({ id: 'new', number: 2 }));
  studio = openStudio(server);
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ first: 3, last: 60, settings })] }));
  page = await mount(TakeAboutComponent, { take: 'take' });
});

describe('what is said of a take', () => {
  it('is a name, a star and notes, each undone, and nothing where all is taken back', async () => {
    const name = page.show.getByLabelText('Name of the take');
    await page.user.type(name, 'For the client{Enter}');
    await page.user.click(page.show.getByRole('button', { name: 'Star this take' }));
    await page.user.type(page.show.getByLabelText('Notes'), 'Warm');
    expect(studio.document().takeNotes['take']).toEqual({ name: 'For the client', note: 'Warm', starred: true });
    for (let k = 0; k < 3; k++) studio.undo();
    expect(studio.document().takeNotes).toEqual({});
  });

  it('is by which settings it was made', () => {
    expect(page.host.textContent).toContain('noise 2.0 %, at most 77 samples, no blur');
  });
});

describe('another take like it', () => {
  it('is rendered by the same settings, inside the shot as it is now', async () => {
    await page.user.click(page.show.getByRole('button', { name: 'Render again' }));
    await eventually(() => expect(server.createTake).toHaveBeenCalled());
    // The shot has 48 frames by now.
    expect(server.createTake.mock.calls[0]!.slice(1, 5)).toEqual(['one', 3, 48, settings]);
  });

  it('has its settings, which become those of the project in one step', async () => {
    await page.user.click(page.show.getByRole('button', { name: 'Use its settings' }));
    const { render, picture } = studio.document();
    expect([picture, render]).toMatchObject([
      { width: 640, height: 360 },
      { share: 'full', samples: 77, motionBlur: false },
    ]);
    expect(render).not.toHaveProperty('width');
    studio.undo();
    expect(studio.document().render.samples).toBe(32);
  });
});
