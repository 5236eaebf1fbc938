import { effect, inject, Injectable, signal } from '@angular/core';
import type { Film } from '@zippy/core/wire';
import { Studio } from './studio';

/** The film that plays in the picture, if any; it is one of the open project. */
@Injectable({ providedIn: 'root' })
export class Watching {
  readonly film = signal<Film | null>(null);
  private readonly studio = inject(Studio);

  constructor() {
    let open = this.studio.project();
    effect(() => {
      const project = this.studio.project();
      if (project !== open) this.film.set(null);
      open = project;
    });
  }
}
