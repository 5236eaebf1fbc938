import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose } from '../../testing/controls';
import { eventually, mount, type Mounted } from '../../testing/mount';
import { openStudio, sampleDocument, sampleTake } from '../../testing/studioBed';
import { Notices } from '../store/notices';
import { TakesActions } from '../store/takes/takes.actions';
import type { Studio } from '../store/studio';
import { TakeChangesComponent } from './take-changes.component';

const server = { takeDocument: vi.fn() };
let studio: Studio;
let page: Mounted<TakeChangesComponent>;
const lines = () => [...page.host.querySelectorAll('p')].map((each) => each.textContent.replace(/\s+/g, ' ').trim());

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio(server);
  const second = sampleDocument();
  second.lights['key']!.power = 50;
  server.takeDocument.mockReset().mockImplementation(async (id: string) => (id === 'b' ? second : sampleDocument()));
  TestBed.inject(Store).dispatch(
    TakesActions.arrived({ takes: [sampleTake(), sampleTake({ id: 'b', number: 2 }), sampleTake({ id: 'c', number: 3, shot: 'two' })] }), // prettier-ignore
  );
  page = await mount(TakeChangesComponent, { take: 'take' });
});

describe('what is different', () => {
  it('is told between a take and the scene now, and between two takes of its shot', async () => {
    studio.setProperty('Focal length', 'cameras/eye/focalLength', 85);
    await page.user.click(page.show.getByText('What is different'));
    await eventually(() => expect(lines()).toEqual(['Eye focal length 50 mm → 85 mm']));
    expect(page.component.others().map(({ label }) => label)).toEqual(['The scene as it is now', 'Take 2']);
    await choose(page.user, page.show.getByLabelText('Compared with'), 'Take 2');
    await eventually(() => expect(lines()[0]).toMatch(/^Key power .* → 50/));
  });

  it('is nothing where no picture would change, and what cannot be read is told', async () => {
    await page.component.look();
    await page.fixture.whenStable();
    await eventually(() => expect(lines()).toContain('Nothing that would change a picture of this shot.'));
    server.takeDocument.mockRejectedValue(new Error('The server is not there.'));
    await page.component.look();
    expect(TestBed.inject(Notices).notice()).toContain('The server is not there.');
  });
});
