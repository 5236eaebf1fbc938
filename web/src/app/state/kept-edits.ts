import { Injectable } from '@angular/core';
import { createStore, del, get, set, type UseStore } from 'idb-keyval';
import type { DocumentPatch } from '@zippy/core/document';

/** Edits, and the revision of the project they were made on. */
export interface Kept {
  revision: number;
  patches: readonly DocumentPatch[];
}

const NONE: Kept = { revision: 0, patches: [] };

/**
 * Edits that the server has not confirmed, kept in this browser beyond a reload. Saving never waits for them and never depends on them:
 * a browser that has no room, or no store at all, keeps nothing and says nothing.
 */
@Injectable({ providedIn: 'root' })
export class KeptEdits {
  private store: UseStore | null = null;
  /** What is written next; of states that follow each other while one is written, the last counts. */
  private next: (Kept & { project: string }) | null = null;
  private writing: Promise<void> | null = null;

  /** Keeps these in place of what was kept of the project; nothing forgets it. */
  keep(project: string, revision: number, patches: readonly DocumentPatch[]): Promise<void> {
    this.next = { project, revision, patches };
    this.writing ??= this.write().finally(() => (this.writing = null));
    return this.writing;
  }

  async of(project: string): Promise<Kept> {
    try {
      await this.writing;
      return (await get<Kept>(project, this.open())) ?? NONE;
    } catch {
      return NONE;
    }
  }

  private async write(): Promise<void> {
    while (this.next) {
      const { project, ...kept } = this.next;
      this.next = null;
      try {
        await (kept.patches.length > 0 ? set(project, kept satisfies Kept, this.open()) : del(project, this.open()));
      } catch {
        // The server has them soon.
      }
    }
  }

  private open(): UseStore {
    return (this.store ??= createStore('zippy-unsaved-edits', 'projects'));
  }
}
