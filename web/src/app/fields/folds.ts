import { Injectable, signal } from '@angular/core';

const KEPT = 'zippy-folded';

/** Groups of fields that are folded, by their titles; remembered in this browser. */
@Injectable({ providedIn: 'root' })
export class Folds {
  private readonly folded = signal<ReadonlySet<string>>(new Set(kept()));

  has = (title: string): boolean => this.folded().has(title);

  set(title: string, folded: boolean): void {
    if (this.has(title) === folded) return;
    const next = new Set(this.folded());
    if (folded) next.add(title);
    else next.delete(title);
    this.folded.set(next);
    localStorage.setItem(KEPT, JSON.stringify([...next]));
  }
}

function kept(): string[] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(KEPT) ?? '[]');
    return Array.isArray(read) ? read.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}
