import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import type { Take } from '@zippy/core/wire';
import { TakesActions } from '../../store/takes/takes.actions';
import type { Studio } from '../../store/studio';
import { TakeListComponent } from './take-list.component';

const server = { takes: vi.fn(), queueTake: vi.fn(), stopTake: vi.fn(), continueTake: vi.fn() };
let studio: Studio;
let page: Mounted<TakeListComponent>;
const store = () => TestBed.inject(Store);
const show = async (...takes: Take[]) => {
  server.takes.mockResolvedValue(takes);
  store().dispatch(TakesActions.arrived({ takes }));
  await page.fixture.whenStable();
};
const waiting = (id: string, number: number, order: number, over: Partial<Take> = {}) =>
  sampleTake({ id, number, order, state: 'waiting', last: 10, done: [], ...over });
const queue = () =>
  [...page.host.querySelectorAll('.queue zr-row button')].map((each) => each.getAttribute('aria-label'));

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset().mockResolvedValue(undefined);
  server.takes.mockResolvedValue([]);
  studio = openStudio(server);
  page = await mount(TakeListComponent);
});

describe('the queue', () => {
  it('stands in its order, which is changed by buttons and by dragging', async () => {
    await show(waiting('a', 1, 5), waiting('b', 2, 2), waiting('c', 3, 3), sampleTake({ id: 'd', number: 4 }));
    expect(queue()).toEqual(['In the queue: take 2', 'In the queue: take 3', 'In the queue: take 1']);
    await page.user.click(page.show.getByRole('button', { name: 'Take 1 earlier' }));
    await page.user.click(page.show.getByRole('button', { name: 'Take 2 later' }));
    page.component.drop({ previousIndex: 0, currentIndex: 2 } as never);
    expect(server.queueTake.mock.calls).toEqual([['a', 'c'], ['b', 'a'], ['b', null]]); // prettier-ignore
  });

  it('tells how far the frame at work is, and how long all of it takes', async () => {
    await show(waiting('a', 1, 1, { state: 'rendering', done: [1, 2] }), waiting('b', 2, 2));
    expect(page.host.textContent).toContain('begins');
    store().dispatch(TakesActions.progressed({ working: { take: 'a', frame: 3, part: 0.5, secondsLeft: 75 } }));
    await page.fixture.whenStable();
    // Eight frames are left with half of one done: ten seconds each; the other take has ten of the same.
    expect(page.host.textContent).toContain('frame 3: 50 % · 75 s left');
    expect(page.host.textContent).toContain('about 3 min in all');
    expect(page.show.getByLabelText('Frames of take 1').getAttribute('aria-valuenow')).toBe('25');
    await show(waiting('a', 1, 1, { state: 'stopped', done: [1, 2] }));
    expect(studio.working()).toBeNull();
  });

  it('is paused as a whole, the take at work last', async () => {
    await show(waiting('a', 1, 1, { state: 'rendering' }), waiting('b', 2, 2));
    await page.user.click(page.show.getByRole('button', { name: 'Pause all' }));
    await vi.waitFor(() => expect(server.stopTake.mock.calls).toEqual([['b'], ['a']]));
  });
});

describe('the list of takes', () => {
  it('is looked through by shot, star and what went wrong', async () => {
    await show(
      sampleTake({ id: 'a', number: 1 }),
      sampleTake({ id: 'b', number: 2, shot: 'two' }),
      sampleTake({ id: 'c', number: 3, state: 'failed', failure: 'The disk is full.' }),
      sampleTake({ id: 'd', number: 4 }),
    );
    page.component.takeWork.note('a', { starred: true, name: 'Client one' });
    const listed = (find: string) => {
      page.component.look(find);
      return page.component.shown().map(({ number }) => number);
    };
    expect([listed('all'), listed('shot'), listed('starred'), listed('failed')]).toEqual([[4, 3, 2, 1], [4, 3, 1], [1], [3]]); // prettier-ignore
    page.component.look('all');
    await page.fixture.whenStable();
    expect(page.show.getByRole('group', { name: 'Take 1' }).textContent).toContain('Take 1 · Client one');
    await page.user.click(page.show.getByRole('button', { name: 'Try again' }));
    expect(server.continueTake).toHaveBeenCalledWith('c');
    studio.undo();
    expect(studio.document().takeNotes).toEqual({});
  });

  it('shows the newest of very many, and older ones on demand', async () => {
    await show(...Array.from({ length: 75 }, (_, k) => sampleTake({ id: `t${k}`, number: k + 1 })));
    const boxes = () => page.show.getAllByRole('group', { name: /^Take \d/ }).length;
    expect(boxes()).toBe(30);
    await page.user.click(page.show.getByRole('button', { name: 'Show 45 older takes' }));
    expect(boxes()).toBe(75);
  });
});
