import { computed, signal } from '@angular/core';
import { scaleLinear } from 'd3';

/** Pixels left and right of the first and last frame. */
const MARGIN = 8;
/** Frames that are seen at least. */
const LEAST = 4;

/** The part of a shot that the strip shows. */
export class StripWindow {
  /** Pixels of the lanes. */
  readonly width = signal(800);
  /** First and last frame that are seen; null shows the whole shot. */
  private readonly seen = signal<[number, number] | null>(null);
  /** What is seen while something is dragged that would change it under the hand. */
  private readonly pinned = signal<[number, number] | null>(null);
  readonly range = computed((): [number, number] => this.pinned() ?? this.seen() ?? [1, Math.max(2, this.length())]);
  readonly zoomed = computed(() => this.seen() !== null);
  readonly x = computed(() => scaleLinear(this.range(), [MARGIN, Math.max(60, this.width() - 14)]));

  /** @param length frames of the shot */
  constructor(private readonly length: () => number) {}

  /** Goes on showing what is seen now, until it is let go. */
  pin(): void {
    this.pinned.set(this.range());
  }

  unpin(): void {
    this.pinned.set(null);
  }

  fit(): void {
    this.seen.set(null);
  }

  /** Shows less or more about a frame, which stays where it is. */
  zoom(factor: number, about: number): void {
    const [from, to] = this.range();
    const span = Math.max(LEAST, (to - from) * factor);
    if (span >= this.length() - 1) return this.fit();
    const share = (about - from) / (to - from);
    this.show(about - share * span, span);
  }

  /** Shows what comes later, or earlier. @param by frames */
  scroll(by: number): void {
    const [from, to] = this.range();
    if (this.zoomed()) this.show(from + by, to - from);
  }

  /** Shows a stretch of time. */
  focus(from: number, to: number): void {
    const span = Math.max(LEAST, to - from);
    if (span >= this.length() - 1) this.fit();
    else this.show(from, span);
  }

  private show(from: number, span: number): void {
    const first = Math.min(Math.max(1, from), Math.max(1, this.length() - span));
    this.seen.set([first, first + span]);
  }
}
