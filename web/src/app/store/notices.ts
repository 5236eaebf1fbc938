import { Injectable, signal } from '@angular/core';

const NEWS_DELAY = 9000;

/** What the page tells its user beside the work. */
@Injectable({ providedIn: 'root' })
export class Notices {
  /** What went wrong, shown until closed. */
  readonly notice = signal<string | null>(null);
  /** What is worth knowing, which goes by itself. */
  readonly news = signal<string | null>(null);
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Says what went wrong; work that was given up is nothing to tell. */
  tell(error: unknown): void {
    if (error instanceof DOMException && error.name === 'AbortError') return;
    this.notice.set(error instanceof Error ? error.message : String(error));
  }

  /** Says something that is no fault; it goes after a while. */
  say(text: string): void {
    this.news.set(text);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.news.set(null), NEWS_DELAY);
  }
}
