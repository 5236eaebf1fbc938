import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually, mount, type Mounted } from '../../../testing/mount';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import { Notices } from '../../store/notices';
import { TakesActions } from '../../store/takes/takes.actions';
import { DiskComponent } from './disk.component';

const server = { takeDisk: vi.fn(), tidyFrames: vi.fn() };
let page: Mounted<DiskComponent>;
const says = () => page.host.textContent.replace(/\s+/g, ' ').trim();

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  server.takeDisk.mockReset().mockResolvedValue({ free: 34.2e9, project: 812e6, unneeded: 120e6 });
  server.tidyFrames.mockReset().mockResolvedValue({ freed: 120e6 });
  openStudio(server);
});

describe('what frames take on the disk', () => {
  it('is told, asked again as takes end, and cleared of what none shows', async () => {
    page = await mount(DiskComponent);
    await eventually(() => expect(says()).toContain("812 MB; 34.2 GB are free on the server's disk"));
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake()] }));
    await eventually(() => expect(server.takeDisk).toHaveBeenCalledTimes(2));
    server.takeDisk.mockResolvedValue({ free: 34.3e9, project: 812e6, unneeded: 0 });
    await page.user.click(page.show.getByRole('button', { name: 'Clear away 120 MB that no take shows' }));
    await eventually(() => expect(TestBed.inject(Notices).news()).toBe('120 MB were cleared away.'));
    await eventually(() => expect(page.show.queryByRole('button')).toBeNull());
  });

  it('is not told where the server is not there', async () => {
    server.takeDisk.mockRejectedValue(new Error('gone'));
    page = await mount(DiskComponent);
    await page.fixture.whenStable();
    expect(says()).toBe('');
    expect(TestBed.inject(Notices).notice()).toBeNull();
  });
});
