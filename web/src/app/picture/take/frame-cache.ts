/** Frames that are being developed at once: as many as the server has threads for it. */
const AT_ONCE = 2;
/** Most pixels that are kept, some 500 MB. */
const MOST_PIXELS = 128_000_000;

export interface FramePicture {
  readonly width: number;
  readonly height: number;
  close(): void;
}

/** What is shown of a take: developed frames by their addresses. */
export interface FrameSource<P extends FramePicture> {
  /** @throws where it cannot be had, or was given up */
  load(url: string, signal: AbortSignal): Promise<P>;
}

interface Asked {
  controller: AbortController;
  frame: number;
}

/**
 * Developed frames of a take, fetched ahead of the playhead and kept. What is not on its way yet and not wanted any more is forgotten;
 * what is on its way goes on while the take plays, as it comes round again, and is given up when it does not.
 */
export class FrameCache<P extends FramePicture> {
  private readonly kept = new Map<string, P>();
  private readonly asked = new Map<string, Asked>();
  private readonly failed = new Set<string>();
  private wanted: { url: string; frame: number }[] = [];
  private pixels = 0;
  /** Mean of the seconds that a frame takes to come. */
  private seconds = 0.5;
  /** A frame has come, or could not. */
  onChange: () => void = () => undefined;

  constructor(private readonly source: FrameSource<P>) {}

  get(url: string): P | null {
    const found = this.kept.get(url) ?? null;
    if (found) {
      // The ones looked at last are kept longest.
      this.kept.delete(url);
      this.kept.set(url, found);
    }
    return found;
  }

  /** Whether a frame was asked for and did not come. */
  isLost = (url: string): boolean => this.failed.has(url);

  /** How many frames a second come at the most, as far as is known. */
  get rate(): number {
    return AT_ONCE / this.seconds;
  }

  /** How many frames ahead of the playhead one that is asked for now can be in time. */
  lead = (framesPerSecond: number): number => Math.ceil(this.seconds * framesPerSecond);

  /**
   * Says what is wanted, the most urgent first, in place of all that was wanted before.
   * @param keepGoing frames on their way are let come, wanted or not
   */
  want(frames: { url: string; frame: number }[], keepGoing: boolean): void {
    this.wanted = frames.filter(({ url }) => !this.kept.has(url) && !this.asked.has(url) && !this.failed.has(url));
    if (!keepGoing) {
      const meant = new Set(frames.map(({ url }) => url));
      for (const [url, { controller }] of this.asked) if (!meant.has(url)) controller.abort();
    }
    this.go();
  }

  /** What did not come may be asked for again: the take tells something new, or the server is back. */
  retry(): void {
    this.failed.clear();
  }

  clear(): void {
    this.wanted = [];
    for (const { controller } of this.asked.values()) controller.abort();
    // What is on its way does not count any more: the same may be wanted again at once.
    this.asked.clear();
    for (const picture of this.kept.values()) picture.close();
    this.kept.clear();
    this.failed.clear();
    this.pixels = 0;
  }

  private go(): void {
    while (this.asked.size < AT_ONCE) {
      const next = this.wanted.shift();
      if (!next) return;
      void this.load(next.url, next.frame);
    }
  }

  private async load(url: string, frame: number): Promise<void> {
    const controller = new AbortController();
    this.asked.set(url, { controller, frame });
    const start = performance.now();
    try {
      const picture = await this.source.load(url, controller.signal);
      this.seconds += 0.3 * ((performance.now() - start) / 1000 - this.seconds);
      // It may have come just as it was given up.
      if (controller.signal.aborted) picture.close();
      else this.keep(url, picture);
    } catch {
      // Given up is not lost: it may be asked for again.
      if (!controller.signal.aborted) this.failed.add(url);
    } finally {
      if (this.asked.get(url)?.controller === controller) this.asked.delete(url);
      this.onChange();
      this.go();
    }
  }

  private keep(url: string, picture: P): void {
    this.kept.set(url, picture);
    this.pixels += picture.width * picture.height;
    for (const [oldest, old] of this.kept) {
      if (this.pixels <= MOST_PIXELS || oldest === url) break;
      this.kept.delete(oldest);
      this.pixels -= old.width * old.height;
      old.close();
    }
  }
}
