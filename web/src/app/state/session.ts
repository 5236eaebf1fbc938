import { DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { applyDocumentPatches, newId, type DocumentPatch, type ProjectDocument } from '@zippy/core/document';
import { Api, ServerLost, ServerProblem } from '../api/api';
import type { ServerEvent } from '../api/types';
import { otherWork } from './other-work';
import { StudioActions } from './studio.actions';
import type { StudioState } from './studio.state';

const SAVE_DELAY = 400;
const RETRY_DELAY = 1500;

/** Keeps this window and the server together: opening, autosave, conflicts, news. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly store = inject<Store<{ studio: StudioState }>>(Store);
  private readonly state = this.store.selectSignal(({ studio }) => studio);
  /** Names this window to the server, so that it does not hear of its own edits. */
  private readonly window = newId();
  private saving: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly listeners = new Set<(event: ServerEvent) => void>();

  /** Sentence for the user, shown until closed. */
  readonly notice = signal<string | null>(null);

  constructor() {
    effect(() => {
      const { unsaved, saved } = this.state();
      if (unsaved.length > 0 && saved !== 'conflict') untracked(() => this.saveSoon(SAVE_DELAY));
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
      const kept = readKept(id);
      this.store.dispatch(StudioActions.projectOpened({ project }));
      if (kept.length > 0) this.takeUp(project.document, project.revision, kept);
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
    const { conflict, unsaved } = this.state();
    if (conflict) this.takeUp(conflict.document, conflict.revision, unsaved);
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
    keep(project, unsaved);
    try {
      // Much that is unsaved takes its time to be written down, here and for the server.
      await otherWork();
      const answer = await this.api.saveEdits(project, revision, unsaved, this.window);
      this.store.dispatch(StudioActions.saveConfirmed({ revision: answer.revision, count: unsaved.length }));
      keep(project, this.state().unsaved);
    } catch (error) {
      if (error instanceof ServerLost || (error instanceof ServerProblem && error.status >= 500)) {
        // A server that is gone, or cannot write, may come back: nothing of the user's is given up.
        if (error instanceof ServerProblem) this.tell(error);
        this.store.dispatch(StudioActions.serverLost());
        this.saveSoon(RETRY_DELAY);
      } else if (error instanceof ServerProblem && error.code === 'revision-conflict') {
        const newer = error.body['newer'] as { revision: number; document: ProjectDocument };
        this.store.dispatch(StudioActions.conflictMet({ conflict: newer }));
      } else {
        this.tell(error);
        keep(project, []);
        await this.open(project);
      }
    }
  }

  tell(error: unknown): void {
    if (error instanceof DOMException && error.name === 'AbortError') return;
    this.notice.set(error instanceof Error ? error.message : String(error));
  }

  private takeUp(document: ProjectDocument, revision: number, patches: DocumentPatch[]): void {
    const fitting: DocumentPatch[] = [];
    let merged = document;
    for (const patch of patches) {
      try {
        merged = applyDocumentPatches(merged, [patch]);
        fitting.push(patch);
      } catch {
        // What the other window removed cannot be changed any more.
      }
    }
    this.store.dispatch(StudioActions.conflictMerged({ document: merged, revision, unsaved: fitting }));
    const lost = patches.length - fitting.length;
    if (lost > 0)
      this.notice.set(
        `${lost} of your changes belonged to things that were removed in the other window and were left out.`,
      );
  }

  private forget(): void {
    const { project } = this.state();
    if (project) keep(project, []);
    this.store.dispatch(StudioActions.projectClosed());
  }

  private saveSoon(delay: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), delay);
  }

  private listen(): void {
    const source = new EventSource('/api/events');
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
      const event = JSON.parse(data as string) as ServerEvent;
      void this.hear(event);
      for (const listener of this.listeners) listener(event);
    };
  }

  private async hear(event: ServerEvent): Promise<void> {
    const { project, unsaved, revision } = this.state();
    if (!project || !('project' in event) || event.project !== project) return;
    try {
      if (event.type === 'takes' || event.type === 'frame') await this.refreshTakes();
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

/** Unsaved patches outlive a reload in this browser until the server has them. */
function keep(project: string, patches: DocumentPatch[]): void {
  const name = `zippy-unsaved-${project}`;
  if (patches.length > 0) localStorage.setItem(name, JSON.stringify(patches));
  else localStorage.removeItem(name);
}

function readKept(project: string): DocumentPatch[] {
  try {
    return JSON.parse(localStorage.getItem(`zippy-unsaved-${project}`) ?? '[]') as DocumentPatch[];
  } catch {
    return [];
  }
}
