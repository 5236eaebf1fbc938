import { DestroyRef, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { mergeEdits, newId, type DocumentPatch, type Meeting, type ProjectDocument } from '@zippy/core/document';
import type { ServerEvent } from '@zippy/core/wire';
import { Api, ServerProblem } from '../api/api';
import { FilmsActions } from './films/films.actions';
import { KeptEdits, type Kept, type Sent } from './kept-edits';
import { many } from '../ui/many';
import { Notices } from './notices';
import { otherWork } from './other-work';
import { ProjectActions } from './project/project.actions';
import { projectFeature } from './project/project.feature';
import { TakesActions } from './takes/takes.actions';

const SAVE_DELAY = 400;
/** A browser whose store hangs holds up a save no longer than this, in milliseconds. */
const MOST_WAIT = 1000;
const RETRY_DELAY = 1500;

/** Projects of the server: opening, saving, and going on from what others saved. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly kept = inject(KeptEdits);
  private readonly notices = inject(Notices);
  private readonly store = inject(Store);
  private readonly state = this.store.selectSignal(projectFeature.selectProjectState);
  /** Names this window to the server, so that it does not hear of its own edits. */
  private readonly window = newId();
  private saving: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** The save that no answer has come to. */
  private sent: Sent | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
  }

  async open(id: string): Promise<void> {
    try {
      const before = await this.kept.of(id);
      const settled = await this.settle(id, before);
      const project = await this.api.openProject(id);
      this.sent = null;
      const kept = settled ?? { revision: project.revision, patches: [] };
      this.store.dispatch(ProjectActions.opened({ project }));
      if (kept.patches.length > 0) {
        // Kept on this very revision, the edits go on where they were; otherwise only what needs no place in a list can be told.
        const base = kept.revision === project.revision ? project.document : null;
        this.takeUp({ base, theirs: project.document, patches: kept.patches }, project.revision);
      }
      const steps = await this.kept.historyOf(id);
      const endsAt = (state: Kept | null) =>
        steps?.revision === state?.revision && steps?.unsaved === state?.patches.length;
      const whole = kept.revision === project.revision && kept.patches.length === this.state().unsaved.length;
      // What is kept last may be one answer behind the steps, or one ahead.
      if (steps && whole && (endsAt(before) || endsAt(kept)))
        this.store.dispatch(ProjectActions.historyTakenUp({ history: steps.history }));
      history.replaceState(null, '', `/p/${id}`);
      await Promise.all([this.refreshTakes(), this.refreshFilms()]);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /**
   * Edits that this browser kept, without those the server has: a save that no answer had come to when the page went is sent once more
   * under its name, and is not done twice.
   */
  private async settle(project: string, kept: Kept | null): Promise<Kept | null> {
    if (!kept?.sent) return kept;
    const { save, count } = kept.sent;
    try {
      const answer = await this.api.saveEdits(project, kept.revision, kept.patches.slice(0, count), this.window, save);
      return { revision: answer.revision, patches: kept.patches.slice(count) };
    } catch {
      // Refused or overtaken: laid over what is there, as all that is kept.
      return kept;
    }
  }

  async create(name: string, document?: ProjectDocument): Promise<void> {
    try {
      const project = await this.api.createProject(name, document);
      await this.open(project.id);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Deletes the open project and opens another one, or a new one where there is none. */
  async removeProject(): Promise<void> {
    const { id: project } = this.state();
    if (!project) return;
    try {
      await this.api.removeProject(project);
      this.forget();
      const [next] = await this.api.projects();
      if (next) await this.open(next.id);
      else await this.create('New project');
    } catch (error) {
      this.notices.tell(error);
    }
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
    const { id: project } = this.state();
    if (!project) return;
    try {
      await this.save();
      this.store.dispatch(
        ProjectActions.opened({ project: await this.api.restoreVersion(project, version, this.window) }),
      );
    } catch (error) {
      this.notices.tell(error);
    }
  }

  async refreshTakes(): Promise<void> {
    const { id: project } = this.state();
    if (project) this.store.dispatch(TakesActions.arrived({ takes: await this.api.takes(project) }));
  }

  async refreshFilms(): Promise<void> {
    const { id: project } = this.state();
    if (project) this.store.dispatch(FilmsActions.arrived({ films: await this.api.films(project) }));
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
    if (this.state().unsaved.length > 0 && this.state().saved === 'waiting') this.saveSoon();
  }

  private async sendEdits(): Promise<void> {
    const { id: project, revision, unsaved, saved } = this.state();
    if (!project || unsaved.length === 0 || saved === 'conflict') return;
    const sent = (this.sent ??= { save: newId(), count: unsaved.length });
    const patches = unsaved.slice(0, sent.count);
    const kept = this.keep();
    try {
      // Much that is unsaved takes its time to be written down, here and for the server.
      await otherWork();
      // A page that is left before this browser knows what was sent would take it for unsent, and lose what can be undone.
      await Promise.race([kept, new Promise((resolve) => setTimeout(resolve, MOST_WAIT))]);
      const answer = await this.api.saveEdits(project, revision, patches, this.window, sent.save);
      this.sent = null;
      this.store.dispatch(ProjectActions.saveConfirmed({ revision: answer.revision, count: sent.count }));
      void this.keep();
    } catch (error) {
      const refused = error instanceof ServerProblem && error.status < 500;
      if (refused) this.sent = null;
      if (!refused) {
        if (error instanceof ServerProblem) this.notices.tell(error);
        this.tryLater();
      } else if (error.code === 'revision-conflict') {
        const newer = error.problem.newer!;
        this.store.dispatch(ProjectActions.conflictMet({ conflict: newer }));
      } else {
        await this.setRefusedAside(error, project, patches).catch(() => this.tryLater());
      }
    }
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
        ({ revision } = await this.api.saveEdits(project, revision, [patch], this.window, newId()));
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
      ProjectActions.refusedSetAside({
        document,
        base: opened.document,
        revision: opened.revision,
        unsaved: patches,
        refused,
      }),
    );
    void this.keep();
    const why = reason instanceof Error ? reason.message : String(reason);
    this.notices.tell(
      refused.length === sent.length
        ? why
        : `${many(refused.length, 'change')} could not be saved and ${refused.length === 1 ? 'was' : 'were'} taken back; all others are safe. ${why}`,
    );
  }

  /** Goes on from a state of the server with edits that it does not have yet; what no longer has a place there is told. */
  private takeUp(meeting: Meeting, revision: number): void {
    const { document, patches, lost } = mergeEdits(meeting);
    this.store.dispatch(ProjectActions.conflictMerged({ document, base: meeting.theirs, revision, unsaved: patches }));
    if (lost > 0)
      this.notices.tell(
        `${many(lost, 'change')} of yours belonged to what was removed or changed in the other window and ${lost === 1 ? 'was' : 'were'} left out.`,
      );
  }

  /** Keeps in the browser what is unsaved and what can be undone. */
  private async keep(): Promise<void> {
    const { id: project, revision, unsaved, history } = this.state();
    const sent = this.sent ? { sent: this.sent } : {};
    if (project) await this.kept.keep(project, { revision, patches: unsaved, ...sent, history });
  }

  private forget(): void {
    const { id: project } = this.state();
    if (project) void this.kept.forget(project);
    this.store.dispatch(ProjectActions.closed());
  }

  /** A server that is gone, or cannot write, may come back: nothing of the user's is given up. */
  private tryLater(): void {
    this.store.dispatch(ProjectActions.serverLost());
    this.saveSoon(RETRY_DELAY);
  }

  /** Sends what is unsaved in a while, together with what is edited until then. */
  saveSoon(delay = SAVE_DELAY): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), delay);
  }

  /** Takes up what another window has saved, where nothing of this one waits to be. */
  async follow(event: ServerEvent): Promise<void> {
    const { id, unsaved, revision } = this.state();
    if (event.type !== 'project' || event.project !== id || event.window === this.window) return;
    if (event.revision <= revision || unsaved.length > 0 || this.saving) return;
    try {
      this.store.dispatch(ProjectActions.opened({ project: await this.api.openProject(id) }));
    } catch {
      // The next event, or the return of the server, brings it up to date.
    }
  }
}
