import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { shotsInOrder } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { ReelFilm } from './reel/reel-film';
import { Studio } from './studio';

/** Most times faster than the film that it can be played. */
const FASTEST = 8;
/** Milliseconds over which pictures are counted. */
const COUNTED = 1000;

/** Moves the playhead while the shot plays, in the film's time whatever the screen's rate is. */
@Injectable({ providedIn: 'root' })
export class Playback {
  private readonly studio = inject(Studio);
  private readonly reel = inject(ReelFilm);
  private readonly playing = computed(() => this.studio.playing());
  /** Of the film's own: negative ones go backwards. */
  readonly rate = signal(1);
  /** Goes on with the next shot where one ends. */
  readonly wholeFilm = signal(false);
  /** Pictures that the last second brought. */
  readonly shown = signal<number | null>(null);
  /** Milliseconds at which the present frame was due. */
  private due = 0;
  private pictures = 0;
  private since = 0;

  constructor() {
    effect(() => {
      if (!this.playing()) return;
      this.due = this.since = performance.now();
      this.pictures = 0;
      untracked(() => requestAnimationFrame(this.tick));
    });
    effect(() => {
      if (this.playing()) return;
      this.rate.set(1);
      this.shown.set(null);
    });
  }

  /** Plays forwards or backwards, once more twice as fast. */
  shuttle(way: 1 | -1): void {
    const rate = this.rate();
    const faster = this.studio.playing() && Math.sign(rate) === way;
    this.rate.set(faster ? Math.max(-FASTEST, Math.min(FASTEST, rate * 2)) : way);
    this.studio.play(true);
  }

  private readonly tick = (now: number): void => {
    if (!untracked(this.playing)) return;
    const period = 1000 / this.studio.frameRate() / Math.abs(this.rate());
    // Pictures that come late are left out: the playhead keeps the film's time.
    const frames = Math.floor((now - this.due) / period);
    if (frames > 0) {
      // What is left of the time counts for the next frame, or a film of 24 would play at 20 on a screen of 60.
      this.due += frames * period;
      this.go(frames * Math.sign(this.rate()));
      this.pictures++;
    }
    if (now - this.since >= COUNTED) {
      this.shown.set(Math.round((this.pictures * 1000) / (now - this.since)));
      [this.pictures, this.since] = [0, now];
    }
    requestAnimationFrame(this.tick);
  };

  /** One frame on, or back: of the film where the reel is what one works at. */
  step(by: number): void {
    if (this.reel.shown()) this.reel.goTo(this.reel.frame() + by);
    else this.studio.goTo(this.studio.frame() + by);
  }

  toEnd(end: 'first' | 'last'): void {
    const on = this.reel.shown();
    const last = on ? this.reel.frames() : (this.studio.shot()?.length ?? 1);
    const frame = end === 'first' ? 1 : last;
    if (on) this.reel.goTo(frame);
    else this.studio.goTo(frame);
  }

  /** Within what shall be played of the shot, again and again; or on into the shots beside it. */
  private go(by: number): void {
    if (this.reel.shown()) {
      const frames = this.reel.frames();
      return this.reel.goTo(1 + ((((this.reel.frame() - 1 + by) % frames) + frames) % frames));
    }
    const shot = this.studio.shot();
    if (!shot) return;
    const [first, last] = rangeOf(shot);
    const next = this.studio.frame() + by;
    if (this.wholeFilm() && (next > last || next < first))
      return this.enter(shot.id, by, next > last ? next - last : first - next);
    const length = last - first + 1;
    this.studio.goTo(first + ((((next - first) % length) + length) % length));
  }

  /** @param over frames beyond the end of the shot before */
  private enter(from: string, way: number, over: number): void {
    // One that is left out of the film is played only by itself.
    const shots = shotsInOrder(this.studio.document()).filter(({ id, included }) => included || id === from);
    const at = shots.findIndex(({ id }) => id === from);
    const next = shots[(at + Math.sign(way) + shots.length) % shots.length]!;
    const [first, last] = rangeOf(next);
    this.studio.openShot(next.id, way > 0 ? Math.min(last, first + over - 1) : Math.max(first, last - over + 1));
  }
}
