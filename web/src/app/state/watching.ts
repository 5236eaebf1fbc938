import { Injectable, signal } from '@angular/core';
import type { FilmView } from '../api/types';

/** The film that plays in the picture, if any. */
@Injectable({ providedIn: 'root' })
export class Watching {
  readonly film = signal<FilmView | null>(null);
}
