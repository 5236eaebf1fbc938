import { Injectable } from '@angular/core';
import { createStore, del, get, set, type UseStore } from 'idb-keyval';
import type { DocumentPatch } from '@zippy/core/document';

/**
 * Edits that the server has not confirmed, kept in this browser beyond a reload. Saving never waits for them and never depends on them:
 * a browser that has no room, or no store at all, keeps nothing and says nothing.
 */
@Injectable({ providedIn: 'root' })
export class KeptEdits {
  private store: UseStore | null = null;
  /** What is written next; of states that follow each other while one is written, the last counts. */
  private next: { project: string; patches: readonly DocumentPatch[] } | null = null;
  private writing: Promise<void> | null = null;

  /** Keeps these in place of what was kept of the project; nothing forgets it. */
  keep(project: string, patches: readonly DocumentPatch[]): Promise<void> {
    this.next = { project, patches };
    this.writing ??= this.write().finally(() => (this.writing = null));
    return this.writing;
  }

  async of(project: string): Promise<DocumentPatch[]> {
    try {
      await this.writing;
      return (await get<DocumentPatch[]>(project, this.open())) ?? [];
    } catch {
      return [];
    }
  }

  private async write(): Promise<void> {
    while (this.next) {
      const { project, patches } = this.next;
      this.next = null;
      try {
        await (patches.length > 0 ? set(project, patches, this.open()) : del(project, this.open()));
      } catch {
        // The server has them soon.
      }
    }
  }

  private open(): UseStore {
    return (this.store ??= createStore('zippy-unsaved', 'edits'));
  }
}
