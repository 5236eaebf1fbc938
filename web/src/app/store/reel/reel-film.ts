import { computed, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { layFilm, type Film, type LaidClip } from '@zippy/core/reel';
import { Studio } from '../studio';
import { ViewActions } from '../view/view.actions';
import { viewFeature } from '../view/view.feature';
import { Watching } from '../watching';

/** The film that the reel is put together to, and where one is in it. */
@Injectable({ providedIn: 'root' })
export class ReelFilm {
  private readonly studio = inject(Studio);
  private readonly store = inject(Store);
  private readonly watching = inject(Watching);
  private readonly playhead = this.store.selectSignal(viewFeature.selectReelFrame);
  private readonly seen = this.store.selectSignal(viewFeature.selectReelSeen);

  readonly film = computed((): Film => layFilm(this.studio.document(), this.studio.takes()));
  readonly frames = computed(() => this.film().frames);
  /** Of the film, from 1. */
  readonly frame = computed(() => Math.min(Math.max(1, this.frames()), Math.max(1, this.playhead())));
  /** The same as panels see it: it rests while the film plays. */
  readonly restFrame = linkedSignal<{ playing: boolean; frame: number }, number>({
    source: () =>
      this.studio.playing() ? { playing: true, frame: 0 } : { playing: false, frame: this.frame() },
    computation: ({ playing, frame }, before) => (playing ? (before?.value ?? untracked(this.frame)) : frame),
  }); // prettier-ignore
  /** The reel is what one works at: its strip is below, and keys for time act on it. */
  readonly open = computed(() => this.studio.desk() === 'reel');
  /** Its film is what the picture shows. */
  readonly shown = computed(() => this.open() && this.seen() && this.frames() > 0 && this.watching.film() === null);
  /** The point of a clip that counts is asked for: the next click in the picture is it. */
  readonly aiming = signal<string | null>(null);

  goTo(frame: number): void {
    const within = Math.min(Math.max(1, this.frames()), Math.max(1, Math.round(frame)));
    this.store.dispatch(ViewActions.reelPlayheadMoved({ frame: within }));
  }

  show(): void {
    this.store.dispatch(ViewActions.reelSeen());
  }

  /** A clip where it lies. */
  laid = (id: string): LaidClip | null => this.film().clips.find(({ clip }) => clip.id === id) ?? null;

  /** The clip at a frame; where two are seen, the one that comes. */
  at = (frame: number): LaidClip | null =>
    [...this.film().clips].reverse().find(({ start, frames }) => frame >= start && frame < start + frames) ?? null;
}
