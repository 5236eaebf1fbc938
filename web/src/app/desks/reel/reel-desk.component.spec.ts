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
import { ReelEdits } from '../../store/edits/reel-edits';
import { ReelFilm } from '../../store/reel/reel-film';
import { Watching } from '../../store/watching';
import { ReelDeskComponent } from './reel-desk.component';

const server = {
  saveEdits: vi.fn(),
  createFilm: vi.fn(),
  films: vi.fn(),
  stopFilm: vi.fn(),
  removeFilm: vi.fn(),
  foretellFilm: vi.fn(),
};
const film = (over: Partial<Film> = {}): Film => ({
  id: 'film',
  name: 'Sample',
  format: 'mp4',
  about: '960 × 540',
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
const order = () => inOrder(studio.document().reel.clips).map(({ source }) => source.kind);

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockResolvedValue({ revision: 2 });
  server.films.mockResolvedValue([]);
  studio = openStudio(server);
  const takes = [sampleTake({ id: 'a' }), sampleTake({ id: 'b', number: 2, shotName: 'Two', last: 24 })];
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes }));
  localStorage.removeItem('zippy-delivery');
  page = await mount(ReelDeskComponent);
});

describe('the Reel desk', () => {
  const fill = async () => {
    const edits = TestBed.inject(ReelEdits);
    edits.addTake('a', 1, 4);
    edits.addTake('b', 1, 24);
    await page.fixture.whenStable();
  };

  it('puts all shots on while it is empty, and makes no file of nothing', async () => {
    expect(['Make the file', 'How large?', 'Save edit list'].map((name) => button(name).disabled)).toEqual([true, true, true]);
    await page.user.click(button('All shots, in their order'));
    const clips = inOrder(studio.document().reel.clips);
    expect(clips.map(({ source, to }) => [source, to])).toEqual([
      [{ kind: 'shot', shot: 'one' }, 48],
      [{ kind: 'shot', shot: 'two' }, 24],
    ]);
    studio.undo();
    expect(order()).toEqual([]);
  }); // prettier-ignore

  it('tells how long the film is, and what will be other than one may think', async () => {
    await fill();
    expect(page.show.getByRole('heading', { name: /Reel/ }).textContent).toContain('28 frames · 1.2 s');
    const takes = [sampleTake({ id: 'a', done: [1, 2] }), sampleTake({ id: 'b', number: 2, settings: { ...sampleTake().settings, width: 100 } })];
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes }));
    TestBed.inject(ReelEdits).addShot('two');
    await page.fixture.whenStable();
    const said = [...page.host.querySelectorAll(':scope > p')].map((each) => each.textContent);
    expect(said).toEqual([
      expect.stringMatching(/^Two is not rendered yet/),
      expect.stringMatching(/^Take 1 is not finished/),
      expect.stringMatching(/of 2 sizes/),
    ]);
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [] }));
    await page.fixture.whenStable();
    expect(page.host.textContent).toContain('2 clips on the reel are of what is gone');
  }); // prettier-ignore

  it('makes a file for a use, as it was changed, of what was saved; and says why it cannot', async () => {
    await fill();
    server.createFilm.mockResolvedValue(film());
    await choose(page.user, page.show.getByLabelText('What it is for'), 'Social, upright');
    await choose(page.user, page.show.getByLabelText('Quality'), 'Fine');
    await page.user.click(button('Make the file'));
    await eventually(() => expect(server.createFilm).toHaveBeenCalledTimes(1));
    expect(server.createFilm.mock.calls[0]).toEqual([
      'sample',
      expect.objectContaining({ format: 'mp4', quality: 'fine', size: { width: 1080, height: 1920 }, shape: 'fill' }),
    ]);
    expect(server.saveEdits).toHaveBeenCalled();
    await choose(page.user, page.show.getByLabelText('Kind of file'), 'GIF');
    server.createFilm.mockRejectedValue(new ServerProblem({ title: 'no-encoder', detail: 'There is no encoder here.' }));
    await page.user.click(button('Make the file'));
    await eventually(() => expect(TestBed.inject(Notices).notice()).toBe('There is no encoder here.'));
  }); // prettier-ignore

  it('foretells how large a file will be, until something of it changes', async () => {
    await fill();
    server.foretellFilm.mockResolvedValue({ bytes: 3_140_000, frames: 28 });
    await page.user.click(button('How large?'));
    await eventually(() => expect(page.host.textContent).toContain('about 3.1 MB'));
    await choose(page.user, page.show.getByLabelText('Kind of file'), 'GIF');
    await page.fixture.whenStable();
    expect(page.host.textContent).not.toContain('about 3.1 MB');
  });

  it('adds titles from the playhead on, and plain clips', async () => {
    await fill();
    TestBed.inject(ReelFilm).goTo(7);
    await page.user.click(button('Title'));
    expect(Object.values(studio.document().reel.titles)).toMatchObject([{ start: 7, length: 72 }]);
    expect(studio.primary()?.kind).toBe('title');
    await page.user.click(button('Plain'));
    expect(inOrder(studio.document().reel.clips).at(-1)).toMatchObject({ source: { kind: 'plain' }, to: 48 });
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
    expect(page.host.textContent).toContain('MP4 (H.264) · 960 × 540 · 2.3 MB');
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
