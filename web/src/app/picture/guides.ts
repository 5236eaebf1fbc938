import { effect, Injectable, signal } from '@angular/core';

/** Lines that can be laid over the film's frame. */
export const GUIDES = {
  thirds: 'Thirds',
  halves: 'Halves',
  diagonals: 'Diagonals',
  safe: 'Safe areas of action and titles',
  horizon: 'Horizon',
} as const;

export type Guide = keyof typeof GUIDES;

/** How far what lies outside of the film's frame is dimmed. */
export const DIMMINGS = { none: 0, little: 40, usual: 62, all: 100 } as const;
export type Dimming = keyof typeof DIMMINGS;

const KEPT = 'zippy-guides';

/** Which lines lie over the picture, kept by the browser. */
@Injectable({ providedIn: 'root' })
export class Guides {
  readonly shown = signal<ReadonlySet<Guide>>(new Set());
  readonly dimming = signal<Dimming>('usual');

  constructor() {
    try {
      const { shown, dimming } = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as {
        shown?: string[];
        dimming?: string;
      };
      this.shown.set(new Set((shown ?? []).filter((each): each is Guide => each in GUIDES)));
      if (dimming && dimming in DIMMINGS) this.dimming.set(dimming as Dimming);
    } catch {
      localStorage.removeItem(KEPT);
    }
    effect(() => {
      localStorage.setItem(KEPT, JSON.stringify({ shown: [...this.shown()], dimming: this.dimming() }));
    });
  }

  toggle(guide: Guide): void {
    const shown = new Set(this.shown());
    if (!shown.delete(guide)) shown.add(guide);
    this.shown.set(shown);
  }
}
