import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { Studio } from './studio';

/** Moves the playhead while the shot plays, in the film's time whatever the screen's rate is. */
@Injectable({ providedIn: 'root' })
export class Playback {
  private readonly studio = inject(Studio);
  private readonly playing = computed(() => this.studio.playing());
  /** Milliseconds at which the present frame was due. */
  private due = 0;

  constructor() {
    effect(() => {
      if (!this.playing()) return;
      this.due = performance.now();
      untracked(() => requestAnimationFrame(this.tick));
    });
  }

  private readonly tick = (now: number): void => {
    if (!untracked(this.playing)) return;
    const period = 1000 / this.studio.frameRate();
    // Pictures that come late are left out: the playhead keeps the film's time.
    const frames = Math.floor((now - this.due) / period);
    if (frames > 0) {
      // What is left of the time counts for the next frame, or a film of 24 would play at 20 on a screen of 60.
      this.due += frames * period;
      const length = this.studio.shot()?.length ?? 1;
      this.studio.goTo(((this.studio.frame() - 1 + frames) % length) + 1);
    }
    requestAnimationFrame(this.tick);
  };
}
