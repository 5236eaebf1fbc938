import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually, mount, type Mounted } from '../../testing/mount';
import { openStudio, sampleProject } from '../../testing/studioBed';
import { ServerProblem } from '../api/api';
import { Notices } from '../store/notices';
import { ProjectFiles } from '../store/project-files';
import type { Studio } from '../store/studio';
import { ProjectsDialogComponent } from './projects-dialog.component';

const server = {
  projects: vi.fn(),
  openProject: vi.fn(),
  unpackProject: vi.fn(),
  copyProject: vi.fn(),
  saveEdits: vi.fn(),
  takes: vi.fn(),
  films: vi.fn(),
};
const entry = (id: string, name: string, updatedAt = Date.now()) => ({ id, name, revision: 1, updatedAt });
let studio: Studio;
let page: Mounted<ProjectsDialogComponent>;
let files: ProjectFiles;
const names = () => [...page.host.querySelectorAll('.project b')].map((each) => each.textContent);

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.projects.mockResolvedValue([entry('new', 'Kettle'), entry('old', 'Lamp', Date.now() - 30 * 86_400_000)]);
  server.openProject.mockImplementation((id: string) => Promise.resolve(sampleProject({ id })));
  server.takes.mockResolvedValue([]);
  server.films.mockResolvedValue([]);
  studio = openStudio(server);
  files = TestBed.inject(ProjectFiles);
  page = await mount(ProjectsDialogComponent);
});
const open = async () => {
  files.choosing.set(true);
  await page.fixture.whenStable();
  await eventually(() => expect(names()).toHaveLength(2));
};

describe('all projects', () => {
  it('are shown as pictures, the newest first, and found by name', async () => {
    expect(page.host.textContent).toBe('');
    await open();
    expect(names()).toEqual(['Kettle', 'Lamp']);
    expect(page.host.querySelector('img')!.getAttribute('src')).toBe('/api/projects/new/picture');
    expect(page.host.textContent).toContain('today');
    await page.user.type(page.show.getByLabelText('Find a project'), 'lam');
    await page.fixture.whenStable();
    expect(names()).toEqual(['Lamp']);
  });

  it('are opened by a click', async () => {
    await open();
    await page.user.click(page.show.getByText('Kettle'));
    await eventually(() => expect(studio.project()).toBe('new'));
    expect(files.choosing()).toBe(false);
  });
});

describe('a project file', () => {
  const file = new File(['x'], 'Lamp.reel.zip');

  it('becomes a project that is opened, with what is missing of it told', async () => {
    server.unpackProject.mockResolvedValue({ id: 'came', notes: ['It lacks the files of "Film".'] });
    await files.open(file);
    expect([studio.project(), TestBed.inject(Notices).news()]).toEqual(['came', 'It lacks the files of "Film".']);
    expect(files.reading()).toBeNull();
  });

  it('that is refused says why, and what is open stays', async () => {
    server.unpackProject.mockRejectedValue(new ServerProblem({ title: 'package-broken', detail: 'It is no archive.' }));
    await files.open(file);
    expect([studio.project(), TestBed.inject(Notices).notice()]).toEqual(['sample', 'It is no archive.']);
  });

  it('is told from a model by its name', () => {
    expect([ProjectFiles.is(file), ProjectFiles.is(new File([], 'parts.zip'))]).toEqual([true, false]);
  });

  it('of a project is copied after it was saved', async () => {
    server.copyProject.mockResolvedValue({ id: 'second' });
    await files.copy('sample');
    expect([server.copyProject.mock.calls[0], studio.project()]).toEqual([['sample'], 'second']);
  });
});
