import { effect, inject, Injectable, signal } from '@angular/core';
import type { FilmView } from '../api/types';
import { Studio } from './studio';

/** The film that plays in the picture, if any; it is one of the open project. */
@Injectable({ providedIn: 'root' })
export class Watching {
  readonly film = signal<FilmView | null>(null);
  private readonly studio = inject(Studio);

  constructor() {
    let open = this.studio.state().project;
    effect(() => {
      const { project } = this.studio.state();
      if (project !== open) this.film.set(null);
      open = project;
    });
  }
}
