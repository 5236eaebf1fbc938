import { Injectable, signal } from '@angular/core';

const KEPT = 'zippy-colors';
const MOST = 12;

/** Colours that were used last, the newest first; remembered in this browser. Linear Rec. 709. */
@Injectable({ providedIn: 'root' })
export class RecentColors {
  readonly all = signal<readonly (readonly [number, number, number])[]>(kept());

  add(color: readonly [number, number, number]): void {
    const others = this.all().filter((each) => each.some((v, k) => Math.abs(v - color[k]!) > 1e-4));
    this.all.set([color, ...others].slice(0, MOST));
    localStorage.setItem(KEPT, JSON.stringify(this.all()));
  }
}

function kept(): [number, number, number][] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(KEPT) ?? '[]');
    if (!Array.isArray(read)) return [];
    return read
      .filter((each) => Array.isArray(each) && each.length === 3 && each.every(Number.isFinite))
      .slice(0, MOST);
  } catch {
    return [];
  }
}
