import { DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { mergeEdits, newId, type DocumentPatch, type Meeting, type ProjectDocument } from '@zippy/core/document';
import { Api, ServerProblem } from '../api/api';
import { SERVER, serverEventSchema, type ServerEvent } from '@zippy/core/wire';
import { KeptEdits } from './kept-edits';
import { many } from './many';
import { otherWork } from './other-work';
import { StudioActions } from './studio.actions';
import { Studio } from './studio';
import type { StudioState } from './studio.state';

const SAVE_DELAY = 400;
const RETRY_DELAY = 1500;
const NEWS_DELAY = 9000;

/** Keeps this window and the server together: opening, autosave, conflicts, news. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly kept = inject(KeptEdits);
  private readonly store = inject<Store<{ studio: StudioState }>>(Store);
  private readonly state = this.store.selectSignal(({ studio }) => studio);
  /** Names this window to the server, so that it does not hear of its own edits. */
  private readonly window = newId();
  private saving: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly listeners = new Set<(event: ServerEvent) => void>();

  /** What went wrong, shown until closed. */
  readonly notice = signal<string | null>(null);
  /** What is worth knowing, which goes by itself. */
  readonly news = signal<string | null>(null);
  private newsTimer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const { unsaved, saved } = this.state();
      if (unsaved.length > 0 && saved !== 'conflict') untracked(() => this.saveSoon(SAVE_DELAY));
    });
    const studio = inject(Studio);
    effect(() => {
      const why = studio.refused();
      if (why) untracked(() => this.notice.set(why));
    });
    this.listen();
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
    addEventListener('beforeunload', (event) => {
      if (this.state().unsaved.length > 0) event.preventDefault();
    });
  }

  async open(id: string): Promise<void> {
    try {
      const project = await this.api.openProject(id);
      const kept = await this.kept.of(id);
      this.store.dispatch(StudioActions.projectOpened({ project }));
      if (kept.patches.length > 0) {
        // Kept on this very revision, the edits go on where they were; otherwise only what needs no place in a list can be told.
        const base = kept.revision === project.revision ? project.document : null;
        this.takeUp({ base, theirs: project.document, patches: kept.patches }, project.revision);
      }
      const steps = await this.kept.historyOf(id);
      const { revision, unsaved } = this.state();
      if (steps && steps.revision === revision && steps.unsaved === unsaved.length)
        this.store.dispatch(StudioActions.historyTakenUp({ history: steps.history }));
      history.replaceState(null, '', `/p/${id}`);
      await Promise.all([this.refreshTakes(), this.refreshFilms()]);
    } catch (error) {
      this.tell(error);
    }
  }

  async create(name: string, document?: ProjectDocument): Promise<void> {
    try {
      const project = await this.api.createProject(name, document);
      await this.open(project.id);
    } catch (error) {
      this.tell(error);
    }
  }

  /** Deletes the open project and opens another one, or a new one where there is none. */
  async removeProject(): Promise<void> {
    const { project } = this.state();
    if (!project) return;
    try {
      await this.api.removeProject(project);
      this.forget();
      const [next] = await this.api.projects();
      if (next) await this.open(next.id);
      else await this.create('New project');
    } catch (error) {
      this.tell(error);
    }
  }

  onEvent(listener: (event: ServerEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Lays this window's unsaved changes over the newer state of the other one. */
  mergeConflict(): void {
    const { base, conflict, unsaved } = this.state();
    if (!conflict) return;
    this.takeUp({ base, theirs: conflict.document, patches: unsaved }, conflict.revision);
  }

  /** Keeps this window's state as a project of its own and opens it; the other window keeps the old one. */
  async keepBoth(): Promise<void> {
    const { document } = this.state();
    if (!document) return;
    this.forget();
    await this.create(`${document.name} (copy)`, document);
  }

  async restoreVersion(version: string): Promise<void> {
    const { project } = this.state();
    if (!project) return;
    try {
      await this.save();
      this.store.dispatch(
        StudioActions.projectOpened({ project: await this.api.restoreVersion(project, version, this.window) }),
      );
    } catch (error) {
      this.tell(error);
    }
  }

  async refreshTakes(): Promise<void> {
    const { project } = this.state();
    if (project) this.store.dispatch(StudioActions.takesArrived({ takes: await this.api.takes(project) }));
  }

  async refreshFilms(): Promise<void> {
    const { project } = this.state();
    if (project) this.store.dispatch(StudioActions.filmsArrived({ films: await this.api.films(project) }));
  }

  /** Sends what is unsaved now. */
  async save(): Promise<void> {
    // What was edited while a save is on its way goes with the next one.
    while (this.saving) await this.saving;
    clearTimeout(this.timer);
    this.saving = this.sendEdits();
    try {
      await this.saving;
    } finally {
      this.saving = null;
    }
    if (this.state().unsaved.length > 0 && this.state().saved === 'waiting') this.saveSoon(SAVE_DELAY);
  }

  private async sendEdits(): Promise<void> {
    const { project, revision, unsaved, saved } = this.state();
    if (!project || unsaved.length === 0 || saved === 'conflict') return;
    this.keep();
    try {
      // Much that is unsaved takes its time to be written down, here and for the server.
      await otherWork();
      const answer = await this.api.saveEdits(project, revision, unsaved, this.window);
      this.store.dispatch(StudioActions.saveConfirmed({ revision: answer.revision, count: unsaved.length }));
      this.keep();
    } catch (error) {
      if (!(error instanceof ServerProblem) || error.status >= 500) {
        if (error instanceof ServerProblem) this.tell(error);
        this.tryLater();
      } else if (error instanceof ServerProblem && error.code === 'revision-conflict') {
        const newer = error.problem.newer!;
        this.store.dispatch(StudioActions.conflictMet({ conflict: newer }));
      } else {
        await this.setRefusedAside(error, project, unsaved).catch(() => this.tryLater());
      }
    }
  }

  /** Says something that is no fault; it goes after a while. */
  say(text: string): void {
    this.news.set(text);
    clearTimeout(this.newsTimer);
    this.newsTimer = setTimeout(() => this.news.set(null), NEWS_DELAY);
  }

  /**
   * The server refuses what was sent. One change that cannot be takes no other with it: they are sent one by one, and what is refused
   * alone is taken back and told.
   */
  private async setRefusedAside(refusal: unknown, project: string, sent: readonly DocumentPatch[]): Promise<void> {
    const refused: DocumentPatch[] = [];
    let reason = refusal;
    let { revision } = this.state();
    let unsent: readonly DocumentPatch[] = [];
    for (const [k, patch] of sent.entries()) {
      try {
        ({ revision } = await this.api.saveEdits(project, revision, [patch], this.window));
      } catch (error) {
        // Gone, or overtaken, in the middle: what is left is kept as it was and sent again.
        if (!(error instanceof ServerProblem) || error.status >= 500 || error.code === 'revision-conflict') {
          unsent = sent.slice(k);
          break;
        }
        refused.push(patch);
        reason = error;
      }
    }
    const left = [...unsent, ...this.state().unsaved.slice(sent.length)];
    const opened = await this.api.openProject(project);
    const { document, patches } = mergeEdits({ base: opened.document, theirs: opened.document, patches: left });
    this.store.dispatch(
      StudioActions.refusedSetAside({
        document,
        base: opened.document,
        revision: opened.revision,
        unsaved: patches,
        refused,
      }),
    );
    this.keep();
    const why = reason instanceof Error ? reason.message : String(reason);
    this.notice.set(
      refused.length === sent.length
        ? why
        : `${many(refused.length, 'change')} could not be saved and ${refused.length === 1 ? 'was' : 'were'} taken back; all others are safe. ${why}`,
    );
  }

  tell(error: unknown): void {
    if (error instanceof DOMException && error.name === 'AbortError') return;
    this.notice.set(error instanceof Error ? error.message : String(error));
  }

  /** Goes on from a state of the server with edits that it does not have yet; what no longer has a place there is told. */
  private takeUp(meeting: Meeting, revision: number): void {
    const { document, patches, lost } = mergeEdits(meeting);
    this.store.dispatch(StudioActions.conflictMerged({ document, base: meeting.theirs, revision, unsaved: patches }));
    if (lost > 0)
      this.notice.set(
        `${many(lost, 'change')} of yours belonged to what was removed or changed in the other window and ${lost === 1 ? 'was' : 'were'} left out.`,
      );
  }

  /** Keeps in the browser what is unsaved and what can be undone. */
  private keep(): void {
    const { project, revision, unsaved, history } = this.state();
    if (project) void this.kept.keep(project, { revision, patches: unsaved, history });
  }

  private forget(): void {
    const { project } = this.state();
    if (project) void this.kept.forget(project);
    this.store.dispatch(StudioActions.projectClosed());
  }

  /** A server that is gone, or cannot write, may come back: nothing of the user's is given up. */
  private tryLater(): void {
    this.store.dispatch(StudioActions.serverLost());
    this.saveSoon(RETRY_DELAY);
  }

  private saveSoon(delay: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), delay);
  }

  private listen(): void {
    const source = new EventSource(SERVER.events.path);
    let lost = false;
    source.onerror = () => {
      lost = true;
      if (this.state().project) this.store.dispatch(StudioActions.serverLost());
    };
    source.onopen = () => {
      if (!lost) return;
      lost = false;
      this.store.dispatch(
        this.state().unsaved.length > 0
          ? StudioActions.saveBegan()
          : StudioActions.saveConfirmed({ revision: this.state().revision, count: 0 }),
      );
      void this.save();
      void this.refreshTakes().catch(() => undefined);
    };
    source.onmessage = ({ data }) => {
      const heard = serverEventSchema.safeParse(JSON.parse(data as string));
      if (!heard.success) return;
      const event = heard.data;
      void this.hear(event);
      for (const listener of this.listeners) listener(event);
    };
  }

  private async hear(event: ServerEvent): Promise<void> {
    const { project, unsaved, revision } = this.state();
    if (!project || !('project' in event) || event.project !== project) return;
    try {
      if (event.type === 'takes') await this.refreshTakes();
      if (event.type === 'frame') this.store.dispatch(StudioActions.framesRendered(event));
      if (event.type === 'film') await this.refreshFilms();
      if (
        event.type === 'project' &&
        event.window !== this.window &&
        event.revision > revision &&
        unsaved.length === 0 &&
        !this.saving
      ) {
        this.store.dispatch(StudioActions.projectOpened({ project: await this.api.openProject(project) }));
      }
    } catch {
      // The next event, or the return of the server, brings it up to date.
    }
  }
}
