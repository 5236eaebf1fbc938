import { choose } from '../../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { inOrder } from '@zippy/core/document';
import { eventually, mount, type Mounted } from '../../../testing/mount';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import { ServerProblem } from '../../api/api';
import type { Film } from '@zippy/core/wire';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../../store/notices';
import { TakesActions } from '../../store/takes/takes.actions';
import { FilmsActions } from '../../store/films/films.actions';
import type { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';
import { Watching } from '../../store/watching';
import { ReelDeskComponent } from './reel-desk.component';

const server = { saveEdits: vi.fn(), createFilm: vi.fn(), films: vi.fn(), stopFilm: vi.fn(), removeFilm: vi.fn() };
const film = (over: Partial<Film> = {}): Film => ({
  id: 'film',
  name: 'Sample',
  format: 'mp4',
  state: 'done',
  frames: 28,
  encoded: 28,
  bytes: 2_345_678,
  failure: '',
  createdAt: 0,
  ...over,
});
let studio: Studio;
let page: Mounted<ReelDeskComponent>;
const button = (name: string) => page.show.getByRole<HTMLButtonElement>('button', { name });
const films = async (...list: Film[]) => {
  server.films.mockResolvedValue(list);
  TestBed.inject(Store).dispatch(FilmsActions.arrived({ films: list }));
  await page.fixture.whenStable();
};
const order = () => inOrder(studio.document().reel.clips).map(({ take }) => take);

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockResolvedValue({ revision: 2 });
  server.films.mockResolvedValue([]);
  studio = openStudio(server);
  const takes = [sampleTake({ id: 'a' }), sampleTake({ id: 'b', number: 2, shotName: 'Two', last: 24 })];
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes }));
  page = await mount(ReelDeskComponent);
});

describe('the Reel desk', () => {
  const fill = async () => {
    const things = TestBed.inject(Things);
    things.addClip('a', 1, 4);
    things.addClip('b', 1, 24);
    await page.fixture.whenStable();
  };

  it('shows the way to the takes while it is empty, and delivers nothing', async () => {
    expect(['MP4', 'GIF', 'PNG frames'].map((name) => button(name).disabled)).toEqual([true, true, true]);
    await page.user.click(button('To the takes'));
    expect(studio.desk()).toBe('render');
  });

  it('puts clips in order and takes them off', async () => {
    await fill();
    expect(page.show.getByRole('heading', { name: /Reel/ }).textContent).toContain('28 frames · 1.2 s');
    // The first cannot come earlier, the last not later.
    const [earlier, later] = ['Earlier', 'Later'].map((label) => page.show.getAllByLabelText(label)) as [HTMLElement[], HTMLElement[]]; // prettier-ignore
    expect([earlier.length, later.length]).toEqual([1, 1]);
    await page.user.click(later[0]!);
    expect(order()).toEqual(['b', 'a']);
    await page.fixture.whenStable();
    await page.user.click(page.show.getAllByLabelText('Take off the reel')[0]!);
    expect(order()).toEqual(['a']);
    studio.undo();
    studio.undo();
    expect(order()).toEqual(['a', 'b']);
  });

  it('selects clips by mouse and keyboard, and says where a take is gone', async () => {
    await fill();
    const lines = page.host.querySelectorAll<HTMLElement>('zr-row > button');
    await page.user.click(lines[1]!);
    expect(studio.primary()?.kind).toBe('clip');
    expect(lines[1]!.textContent).toContain('2 · Two');
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [] }));
    await page.fixture.whenStable();
    expect(lines[1]!.textContent).toContain('Take is gone');
    lines[0]!.focus();
    await page.user.keyboard('{Enter}');
    expect(studio.primary()!.id).toBe(inOrder(studio.document().reel.clips)[0]!.id);
  });

  it('delivers what was saved, in the quality that was chosen, and says why it cannot', async () => {
    await fill();
    server.createFilm.mockResolvedValue(film());
    await choose(page.user, page.show.getByLabelText('MP4 quality'), 'fine');
    await page.user.click(button('MP4'));
    await eventually(() => expect(server.createFilm).toHaveBeenCalledWith('sample', 'mp4', 'fine'));
    expect(server.saveEdits).toHaveBeenCalled();
    server.createFilm.mockRejectedValue(
      new ServerProblem({ title: 'no-encoder', detail: 'There is no encoder here.' }),
    );
    await page.user.click(button('GIF'));
    await eventually(() => expect(TestBed.inject(Notices).notice()).toBe('There is no encoder here.'));
  });
});

describe('films', () => {
  it('show how far they are, can be stopped, and say what went wrong', async () => {
    await films(
      film({ id: 'x', state: 'encoding', encoded: 7, bytes: 0 }),
      film({ id: 'y', state: 'failed', failure: 'The encoder ended.' }),
      film({ id: 'z', state: 'stopped' }),
    );
    const [bar] = page.show.getAllByRole('progressbar');
    expect(bar!.getAttribute('aria-valuenow')).toBe('25');
    await page.user.click(button('Stop'));
    expect(server.stopFilm).toHaveBeenCalledWith('x');
    for (const said of ['The encoder ended.', 'stopped']) expect(page.show.getByText(said)).toBeTruthy();
  });

  it('are watched and downloaded, frames in an archive downloaded only', async () => {
    await films(film(), film({ id: 'zip', format: 'png-zip' }));
    expect(page.host.textContent).toContain('MP4 · 2.3 MB');
    expect(page.show.getAllByRole('button', { name: 'Watch' })).toHaveLength(1);
    await page.user.click(button('Watch'));
    expect(TestBed.inject(Watching).film()?.id).toBe('film');
    expect(page.show.getAllByRole('link').map((link) => link.getAttribute('href'))).toEqual(['/api/films/film/file?save=', '/api/films/zip/file?save=']); // prettier-ignore
  });

  it('are deleted once it was asked, and no longer watched; what failed is cleared away at once', async () => {
    server.removeFilm.mockResolvedValue(undefined);
    const sure = vi.spyOn(TestBed.inject(Ask), 'sure').mockResolvedValueOnce(false).mockResolvedValueOnce(true);
    await films(film());
    TestBed.inject(Watching).film.set(film());
    await page.user.click(button('Delete film'));
    expect(server.removeFilm).not.toHaveBeenCalled();
    await page.user.click(button('Delete film'));
    await eventually(() => expect(server.removeFilm).toHaveBeenCalledWith('film'));
    expect(TestBed.inject(Watching).film()).toBeNull();
    await films(film({ id: 'y', state: 'failed' }));
    await page.user.click(button('Clear away'));
    await eventually(() => expect(server.removeFilm).toHaveBeenCalledWith('y'));
    expect(sure).toHaveBeenCalledTimes(2);
  });
});
