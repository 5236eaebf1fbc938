import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { shotsInOrder, type ProjectDocument, type Shot } from '@zippy/core/document';
import { evaluate } from '@zippy/core/motion';
import { SceneBounds } from '../store/scene-bounds';
import { Studio } from '../store/studio';
import type { Stage } from '../picture/stage';

/** Small frames of one shot. */
export const STILLS_PER_SHOT = 4;
const HEIGHT = 54;
/** Milliseconds without an edit before stills are drawn anew. */
const QUIET = 700;

/** The frame of a shot that its `k`th still shows. */
export const stillFrame = (length: number, k: number): number =>
  1 + Math.round(((length - 1) * (k + 0.5)) / STILLS_PER_SHOT);

/** Small sketches of every shot for the time strip, drawn one by one while nothing else happens. */
@Injectable({ providedIn: 'root' })
export class ShotStills {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  readonly stage = signal<Stage | null>(null);
  /** Pictures by shot id. */
  readonly stills = signal<ReadonlyMap<string, string[]>>(new Map());
  /** Stills of a shot that are there already; one is drawn at a time to keep the page free. */
  private begun: { shot: Shot; document: ProjectDocument; urls: string[] } | null = null;
  private readonly drawn = new WeakMap<Shot, ProjectDocument>();
  /** Shots whose stills are of an older state, until they are drawn anew. */
  readonly older = signal<ReadonlySet<string>>(new Set());
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const document = this.studio.document();
      this.bounds.meshes();
      untracked(() => this.markOlder(document));
      if (this.stage()) untracked(() => this.soon(QUIET));
    });
  }

  private markOlder(document: ProjectDocument): void {
    const stale = Object.values(document.shots).filter(
      (shot) => this.stills().has(shot.id) && !this.isFresh(shot, document),
    );
    this.older.set(new Set(stale.map(({ id }) => id)));
  }

  private isFresh(shot: Shot, document: ProjectDocument): boolean {
    const before = this.drawn.get(shot);
    return before !== undefined && looksAlike(before, document);
  }

  private soon(delay: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.drawNext(), delay);
  }

  private async drawNext(): Promise<void> {
    const stage = this.stage();
    const document = this.studio.document();
    if (!stage || !document) return;
    if (this.studio.playing() || stage.filling) return this.soon(QUIET);
    const shot = shotsInOrder(document).find((each) => !this.isFresh(each, document));
    if (!shot) return;
    const urls = this.begun?.shot === shot && this.begun.document === document ? this.begun.urls : [];
    const { width, height } = shot.picture ?? document.picture;
    const frame = evaluate(document, shot, stillFrame(shot.length, urls.length));
    const url = await stage.still(frame, width / height, HEIGHT);
    // Edited meanwhile: the edit has asked for stills of its own.
    if (url === null || this.studio.document() !== document) return;
    urls.push(url);
    this.begun = { shot, document, urls };
    if (urls.length === STILLS_PER_SHOT) {
      this.begun = null;
      this.drawn.set(shot, document);
      this.stills.update((known) => new Map([...known, [shot.id, urls]]));
      this.markOlder(document);
    }
    this.soon(30);
  }
}

/** Whether two states of a document give the same sketch of an unchanged shot. Edits share what they leave alone. */
const looksAlike = (a: ProjectDocument, b: ProjectDocument): boolean =>
  a === b ||
  (a.nodes === b.nodes &&
    a.finishes === b.finishes &&
    a.lights === b.lights &&
    a.cameras === b.cameras &&
    a.picture === b.picture &&
    a.set === b.set);
