import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio, sampleDocument, sampleProject } from '../../testing/studioBed';
import { ServerLost, ServerProblem } from '../api/api';
import type { ServerEvent } from '@zippy/core/wire';
import { KeptEdits, type Kept, type KeptHistory } from './kept-edits';
import { Notices } from './notices';
import { projectFeature } from './project/project.feature';
import { provideStudioEffects } from './provide-store';
import { Session } from './session';
import type { Studio } from './studio';

/** Stands for the browser's stream of server events. */
class FakeEvents {
  static last: FakeEvents;
  onopen = () => {};
  onerror = () => {};
  onmessage = (_: { data: string }) => {};
  close = () => {};
  constructor() {
    FakeEvents.last = this;
  }
  send(event: ServerEvent): void {
    this.onmessage({ data: JSON.stringify(event) });
  }
}

const server = {
  openProject: vi.fn(),
  createProject: vi.fn(),
  removeProject: vi.fn(),
  projects: vi.fn(),
  saveEdits: vi.fn(),
  takes: vi.fn(),
  films: vi.fn(),
  restoreVersion: vi.fn(),
};
/** Stands for the browser's store. */
const kept = new Map<string, Kept>();
const histories = new Map<string, KeptHistory>();
const keptEdits: Pick<KeptEdits, 'keep' | 'of' | 'historyOf' | 'forget'> = {
  keep: async (project, { revision, patches, sent, history }) => {
    histories.set(project, { revision, unsaved: patches.length, history });
    if (patches.length > 0) kept.set(project, { revision, patches, ...(sent && { sent }) });
    else kept.delete(project);
  },
  of: async (project) => kept.get(project) ?? null,
  historyOf: async (project) => histories.get(project) ?? null,
  forget: async (project) => void (kept.delete(project) && histories.delete(project)),
};
let studio: Studio;
let session: Session;
let notices: Notices;
/** What the store holds of the open project. */
const project = () => TestBed.inject(Store).selectSignal(projectFeature.selectProjectState)();

const power = 'lights/key/power';
const later = async (milliseconds = 500) => {
  TestBed.tick();
  await vi.advanceTimersByTimeAsync(milliseconds);
};
const conflict = () => {
  const newer = { id: 'sample', revision: 7, document: { ...sampleDocument(), name: 'Theirs' } };
  return new ServerProblem({
    title: 'revision-conflict',
    detail: 'Another window was first.',
    status: 409,
    newer,
  });
};

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', FakeEvents);
  kept.clear();
  histories.clear();
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockImplementation(async (_: string, revision: number) => ({ revision: revision + 1 }));
  server.takes.mockResolvedValue([]);
  server.films.mockResolvedValue([]);
  studio = openStudio(server, [{ provide: KeptEdits, useValue: keptEdits }, provideStudioEffects()]);
  session = TestBed.inject(Session);
  notices = TestBed.inject(Notices);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('autosave', () => {
  it('sends edits together, soon after the last one', async () => {
    studio.setProperty('Power', power, 1);
    studio.setProperty('Power', 'lights/lamp/power', 2);
    await later();
    expect(server.saveEdits).toHaveBeenCalledTimes(1);
    expect(server.saveEdits.mock.calls[0]!.slice(0, 2)).toEqual(['sample', 1]);
    expect(server.saveEdits.mock.calls[0]![2]).toHaveLength(2);
    expect([studio.saved(), project().revision]).toEqual(['saved', 2]);
    expect(kept.size).toBe(0);
  });

  it('is over only when a save on its way has arrived, and all that was edited since', async () => {
    const answers: ((value: { revision: number }) => void)[] = [];
    server.saveEdits.mockImplementation(() => new Promise((resolve) => answers.push(resolve)));
    studio.setProperty('Power', power, 1);
    await later();
    studio.setProperty('Power', power, 2);
    let saved = 0;
    for (let k = 0; k < 2; k++) void session.save().then(() => saved++);
    await later(100);
    expect([answers.length, saved]).toEqual([1, 0]);
    answers[0]!({ revision: 2 });
    await later(100);
    expect([answers.length, saved]).toEqual([2, 0]);
    answers[1]!({ revision: 3 });
    await later(100);
    expect([answers.length, saved]).toEqual([2, 2]);
    expect(project()).toMatchObject({ saved: 'saved', revision: 3 });
  });

  it('waits until this browser knows what is sent, but not for one whose store hangs', async () => {
    let written!: () => void;
    const store = vi.spyOn(keptEdits, 'keep');
    store.mockReturnValue(new Promise((resolve) => (written = resolve)));
    studio.setProperty('Power', power, 1);
    await later();
    expect(store.mock.lastCall![1].sent).toMatchObject({ count: 1 });
    expect(server.saveEdits).not.toHaveBeenCalled();
    written();
    await later(1);
    expect(server.saveEdits).toHaveBeenCalledTimes(1);
    store.mockReturnValue(new Promise(() => undefined));
    studio.setProperty('Power', power, 2);
    await later(1600);
    expect(server.saveEdits).toHaveBeenCalledTimes(2);
    store.mockRestore();
  });

  it('sends what was edited during a save in the next one', async () => {
    let answer!: (value: { revision: number }) => void;
    server.saveEdits.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
    studio.setProperty('Power', power, 1);
    await later();
    studio.setProperty('Power', power, 2);
    answer({ revision: 2 });
    await later(1000);
    expect(server.saveEdits.mock.calls.map((call) => [call[1], call[2].length])).toEqual([
      [1, 1],
      [2, 1],
    ]);
    expect(studio.saved()).toBe('saved');
  });

  it('keeps changes in the browser while the server is lost, and sends them when it is back', async () => {
    server.saveEdits.mockRejectedValue(new ServerLost());
    studio.setProperty('Power', power, 1);
    await later();
    expect(studio.saved()).toBe('offline');
    expect(kept.get('sample')).toMatchObject({ revision: 1, patches: [{}] });
    server.saveEdits.mockResolvedValue({ revision: 2 });
    FakeEvents.last.onerror();
    FakeEvents.last.onopen();
    await later(2000);
    expect(project()).toMatchObject({ saved: 'saved', revision: 2, unsaved: [] });
    expect(kept.size).toBe(0);
  });

  it('sends a save whose answer was lost once more as it was, and what was edited since after it', async () => {
    server.saveEdits.mockRejectedValueOnce(new ServerLost());
    studio.setProperty('Power', power, 1);
    await later();
    studio.setProperty('Power', power, 2);
    await later(5000);
    const calls = server.saveEdits.mock.calls;
    expect(calls.map((call) => [call[1], call[2].length])).toEqual([
      [1, 1],
      [1, 1],
      [2, 1],
    ]);
    expect(calls[0]![4]).toBe(calls[1]![4]);
    expect(calls[2]![4]).not.toBe(calls[1]![4]);
    expect(project()).toMatchObject({ saved: 'saved', revision: 3 });
  });

  it('gives nothing up where the server cannot write, and says why', async () => {
    server.saveEdits.mockRejectedValueOnce(
      new ServerProblem({ title: 'server-failed', detail: 'The disk is full.', status: 507 }),
    );
    studio.setProperty('Power', power, 1);
    await later();
    expect([studio.saved(), notices.notice()]).toEqual(['offline', 'The disk is full.']);
    await later(2000);
    expect(project()).toMatchObject({ saved: 'saved', revision: 2 });
    expect(studio.document().lights['key']!.power).toBe(1);
  });

  it('takes a refused change back and says why', async () => {
    server.saveEdits.mockRejectedValue(
      new ServerProblem({ title: 'document-invalid', detail: 'Exposure must be at most 20.', status: 422 }),
    );
    server.openProject.mockResolvedValue(sampleProject({ revision: 3 }));
    studio.setProperty('Power', power, 1);
    await later();
    expect(notices.notice()).toBe('Exposure must be at most 20.');
    expect(studio.document().lights['key']!.power).toBe(900);
    expect(project()).toMatchObject({ revision: 3, unsaved: [] });
  });
});

describe('one change of several that is refused', () => {
  it('is taken back alone and told; all others are saved', async () => {
    let revision = 1;
    const document = sampleDocument();
    server.saveEdits.mockImplementation(async (_: string, on: number, patches: { path: string[]; value: number }[]) => {
      if (patches.some(({ value }) => value === 2.5))
        throw new ServerProblem({ title: 'document-broken', detail: 'A length is whole.', status: 422 });
      expect(on).toBe(revision);
      for (const { path, value } of patches) (document.lights[path[1]!] as { power: number }).power = value;
      return { revision: ++revision };
    });
    server.openProject.mockImplementation(async () => ({ id: 'sample', revision, document }));
    studio.setProperty('Power', power, 1);
    studio.setProperty('Power', power, 2.5);
    studio.setProperty('Power', 'lights/lamp/power', 3);
    await later();
    expect(notices.notice()).toBe(
      '1 change could not be saved and was taken back; all others are safe. A length is whole.',
    );
    const { lights } = studio.document();
    expect([lights['key']!.power, lights['lamp']!.power]).toEqual([1, 3]);
    expect(project()).toMatchObject({ revision: 3, unsaved: [] });
    expect(kept.size).toBe(0);
    // What was not refused can be undone as before.
    studio.undo();
    expect(studio.document().lights['lamp']!.power).not.toBe(3);
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(900);
    studio.redo();
    expect(studio.document().lights['key']!.power).toBe(1);
  });

  it('are kept where the server goes in the middle of a refusal', async () => {
    server.saveEdits.mockRejectedValueOnce(new ServerProblem({ title: 'bad-input', detail: 'A length is whole.' }));
    server.saveEdits.mockRejectedValue(new ServerLost());
    server.openProject.mockRejectedValueOnce(new ServerLost());
    studio.setProperty('Power', power, 3);
    await later();
    expect(project()).toMatchObject({ saved: 'offline', unsaved: [{ value: 3 }] });
  });
});

describe('an edit that the document would refuse', () => {
  it('is not done and told with its reason; nothing is sent, and all steps stay', async () => {
    studio.setProperty('Power', power, 5);
    studio.edit('Length', (draft) => void (draft.shots['one']!.length = 55.2));
    studio.edit('Hang', (draft) => void (draft.lights['key']!.parent = 'nowhere'));
    await later();
    expect(notices.notice()).toMatch(/^Hang: nothing was changed\. "Key" hangs on something that does not exist/);
    expect(server.saveEdits.mock.calls.flatMap((call) => call[2] as unknown[])).toHaveLength(1);
    expect(Number.isInteger(studio.shot()!.length)).toBe(true);
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(900);
  });
});

describe('what can be undone', () => {
  it('can be undone after a reload, of what was saved and of what was not', async () => {
    studio.setProperty('Power', power, 5);
    studio.setProperty('Power', power, 6);
    await later();
    const saved = studio.document();
    server.openProject.mockResolvedValue({ ...sampleProject({ revision: 2 }), document: saved });
    await session.open('sample');
    expect(project().unsaved).toEqual([]);
    studio.undo();
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(900);
    server.saveEdits.mockRejectedValue(new ServerLost());
    await later();
    await session.open('sample');
    expect(studio.document().lights['key']!.power).toBe(900);
    studio.redo();
    expect(studio.document().lights['key']!.power).toBe(5);
  });

  it('can be undone after a reload in the middle of a save that the server did', async () => {
    server.saveEdits.mockReturnValueOnce(new Promise(() => {}));
    studio.setProperty('Power', power, 5);
    await later();
    const [, , patches, , save] = server.saveEdits.mock.calls[0]!;
    server.openProject.mockResolvedValue({ ...sampleProject({ revision: 2 }), document: studio.document() });
    await session.open('sample');
    // It is sent once more under its name, which the server knows again.
    expect(server.saveEdits.mock.calls.map((call) => [call[1], call[2], call[4]])).toEqual([
      [1, patches, save],
      [1, patches, save],
    ]);
    expect(project()).toMatchObject({ revision: 2, unsaved: [] });
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(900);
  });

  it('is gone where another window went on meanwhile', async () => {
    studio.setProperty('Power', power, 5);
    await later();
    server.openProject.mockResolvedValue(sampleProject({ revision: 9 }));
    await session.open('sample');
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(900);
    expect(studio.history().done).toEqual([]);
  });
});

describe('a conflict', () => {
  it('waits for the user, and Merge lays the changes over the newer state', async () => {
    server.saveEdits.mockRejectedValueOnce(conflict());
    studio.setProperty('Power', power, 5);
    await later();
    expect(studio.saved()).toBe('conflict');
    await later(5000);
    expect(server.saveEdits).toHaveBeenCalledTimes(1);
    session.mergeConflict();
    expect([studio.document().name, studio.document().lights['key']!.power]).toEqual(['Theirs', 5]);
    await later();
    expect(server.saveEdits.mock.calls.at(-1)![1]).toBe(7);
    expect(studio.saved()).toBe('saved');
  });

  it('leaves out changes of things the other window removed, and says how many', async () => {
    const problem = conflict();
    delete problem.problem.newer!.document.lights['key'];
    server.saveEdits.mockRejectedValueOnce(problem);
    studio.setProperty('Power', power, 5);
    studio.setProperty('Power', 'lights/lamp/power', 6);
    await later();
    session.mergeConflict();
    expect(studio.document().lights['key']).toBeUndefined();
    expect(studio.document().lights['lamp']!.power).toBe(6);
    expect(notices.notice()).toMatch(/^1 change of yours .* was left out/);
  });

  it('kept both makes a project of its own with this window’s state', async () => {
    server.saveEdits.mockRejectedValueOnce(conflict());
    server.createProject.mockResolvedValue({ id: 'copy', revision: 1, document: sampleDocument() });
    server.openProject.mockResolvedValue({ id: 'copy', revision: 1, document: sampleDocument() });
    studio.setProperty('Power', power, 5);
    await later();
    await session.keepBoth();
    const [name, document] = server.createProject.mock.calls[0]!;
    expect([name, document.lights.key.power]).toEqual(['Sample (copy)', 5]);
    expect(project()).toMatchObject({ id: 'copy', conflict: null, unsaved: [] });
  });
});

describe('opening', () => {
  it('takes up what this browser still had to send', async () => {
    kept.set('sample', {
      revision: 5,
      patches: [{ op: 'replace', path: ['lights', 'key', 'power'], value: 12 }],
    });
    server.openProject.mockResolvedValue(sampleProject({ revision: 6 }));
    await session.open('sample');
    expect(studio.document().lights['key']!.power).toBe(12);
    await later();
    expect(server.saveEdits.mock.calls[0]!.slice(0, 2)).toEqual(['sample', 6]);
  });

  it('takes up keys too where nobody else changed the project, and where somebody did says so', async () => {
    const [shot] = Object.keys(sampleDocument().shots);
    const track = ['shots', shot!, 'tracks', power];
    const document = sampleDocument();
    document.shots[shot!]!.tracks[power] = [{ frame: 1, value: 1, pace: 'linear' }];
    kept.set('sample', { revision: 6, patches: [{ op: 'replace', path: [...track, 0, 'value'], value: 4 }] });
    for (const [revision, value] of [
      [6, 4],
      [7, 1],
    ] as const) {
      server.openProject.mockResolvedValue(sampleProject({ revision, document }));
      await session.open('sample');
      expect(studio.document().shots[shot!]!.tracks[power]![0]!.value).toBe(value);
    }
    expect(notices.notice()).toMatch(/^1 change of yours/);
  });

  it('of a project that is gone says so', async () => {
    server.openProject.mockRejectedValue(
      new ServerProblem({ title: 'not-found', detail: 'This project is no longer there.' }),
    );
    await session.open('gone');
    expect(notices.notice()).toBe('This project is no longer there.');
    expect(studio.project()).toBe('sample');
  });

  it('after a deletion goes on with the next project, or a new one', async () => {
    server.projects.mockResolvedValueOnce([{ id: 'next' }]).mockResolvedValueOnce([]);
    server.openProject.mockImplementation(async (id: string) => sampleProject({ id }));
    server.createProject.mockResolvedValue(sampleProject({ id: 'new' }));
    await session.removeProject();
    expect(studio.project()).toBe('next');
    await session.removeProject();
    expect(studio.project()).toBe('new');
  });
});

describe('news from the server', () => {
  const news = (window: string, revision: number): ServerEvent => ({
    type: 'project',
    project: 'sample',
    revision,
    window,
  });

  it('of another window’s edit brings its state', async () => {
    server.openProject.mockResolvedValue(
      sampleProject({ revision: 2, document: { ...sampleDocument(), name: 'Theirs' } }),
    );
    FakeEvents.last.send(news('other', 2));
    await later();
    expect(studio.document().name).toBe('Theirs');
  });

  it('does not run over changes that are not saved yet, nor follow old news', async () => {
    FakeEvents.last.send(news('other', 1));
    studio.setProperty('Power', power, 1);
    FakeEvents.last.send(news('other', 2));
    await later(0);
    expect(server.openProject).not.toHaveBeenCalled();
  });

  it('of frames and films refreshes their lists, and of other projects nothing', async () => {
    FakeEvents.last.send({ type: 'takes', project: 'sample' });
    FakeEvents.last.send({ type: 'film', project: 'sample', film: 'f', state: 'done', encoded: 1, frames: 1 });
    FakeEvents.last.send({ type: 'takes', project: 'elsewhere' });
    await later(0);
    expect([server.takes.mock.calls.length, server.films.mock.calls.length]).toEqual([1, 1]);
  });
});
