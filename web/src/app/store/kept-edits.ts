import { Injectable } from '@angular/core';
import { createStore, del, delMany, get, keys, set, type UseStore } from 'idb-keyval';
import { newestSteps, newId, type DocumentPatch, type History } from '@zippy/core/document';

/** Edits, and the revision of the project they were made on. */
export interface Kept {
  revision: number;
  patches: readonly DocumentPatch[];
  /** The first of them are on their way to the server. */
  sent?: Sent;
}

/** A save that was sent, and how many patches it holds: as long as no answer has come, the server may have it or not. */
export interface Sent {
  save: string;
  count: number;
}

/** What could be undone in this window, on a revision with so many patches laid over it. */
export interface KeptHistory {
  revision: number;
  unsaved: number;
  history: History;
}

/** Patches of steps that are kept at the most: writing more would be felt. */
const MOST_PATCHES = 3000;
/** Windows of which steps are kept. */
const MOST_WINDOWS = 40;
const WINDOW = 'zippy-window';

/**
 * Edits that the server has not confirmed, and the steps that can be undone, kept in this browser beyond a reload. Saving never depends on
 * them, and waits for them a moment at most: a browser that has no room, or no store at all, keeps nothing and says nothing.
 */
@Injectable({ providedIn: 'root' })
export class KeptEdits {
  private edits: UseStore | null = null;
  private histories: UseStore | null = null;
  /** What is written next; of states that follow each other while one is written, the last counts. */
  private next: (Kept & { project: string; history: History }) | null = null;
  private writing: Promise<void> | null = null;
  /** Steps are undone in the window in which they were made; a reload is the same window. */
  private readonly window = windowName();

  /** Keeps these in place of what was kept of the project. */
  keep(project: string, state: Kept & { history: History }): Promise<void> {
    this.next = { project, ...state };
    this.writing ??= this.write().finally(() => (this.writing = null));
    return this.writing;
  }

  /** Forgets all that was kept of the project here. */
  async forget(project: string): Promise<void> {
    try {
      await this.writing;
      await del(project, this.editStore());
      await del(this.key(project), this.historyStore());
    } catch {
      // Nothing was kept.
    }
  }

  async of(project: string): Promise<Kept | null> {
    try {
      await this.writing;
      return (await get<Kept>(project, this.editStore())) ?? null;
    } catch {
      return null;
    }
  }

  async historyOf(project: string): Promise<KeptHistory | null> {
    try {
      return (await get<KeptHistory>(this.key(project), this.historyStore())) ?? null;
    } catch {
      return null;
    }
  }

  private async write(): Promise<void> {
    while (this.next) {
      const { project, revision, patches, sent, history } = this.next;
      this.next = null;
      try {
        const steps = { revision, unsaved: patches.length, history: newestSteps(history, MOST_PATCHES) };
        const keepSteps = () => set(this.key(project), steps satisfies KeptHistory, this.historyStore());
        // Edits before their steps, and when they are saved the steps before they go: a page that goes in between loses neither.
        if (patches.length > 0) {
          await set(project, { revision, patches, ...(sent && { sent }) } satisfies Kept, this.editStore());
          await keepSteps();
        } else {
          await keepSteps();
          await del(project, this.editStore());
        }
        await this.dropOldest();
      } catch {
        // The server has the edits soon.
      }
    }
  }

  /** Windows that are closed leave their steps behind. */
  private async dropOldest(): Promise<void> {
    const all = await keys<string>(this.historyStore());
    if (all.length <= MOST_WINDOWS) return;
    const oldest = all.filter((key) => !key.startsWith(this.window)).sort();
    await delMany(oldest.slice(0, all.length - MOST_WINDOWS), this.historyStore());
  }

  private readonly key = (project: string) => `${this.window} ${project}`;

  private editStore(): UseStore {
    return (this.edits ??= createStore('zippy-unsaved-edits', 'projects'));
  }

  private historyStore(): UseStore {
    return (this.histories ??= createStore('zippy-histories', 'windows'));
  }
}

/** A name of this window that begins with when it was first opened, so that names sort by age. */
function windowName(): string {
  const fresh = `${Date.now()}-${newId()}`;
  try {
    const known = sessionStorage.getItem(WINDOW) ?? fresh;
    sessionStorage.setItem(WINDOW, known);
    return known;
  } catch {
    return fresh;
  }
}
