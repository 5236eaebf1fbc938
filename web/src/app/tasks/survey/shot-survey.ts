import { effect, inject, Injectable, InjectionToken, untracked } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { FitBy, Shapes } from '@zippy/core/checks';
import { sceneDigest, shotsInOrder, type ProjectDocument, type Shot } from '@zippy/core/document';
import { MeshLibrary } from '../../meshes/mesh-library';
import { Notices } from '../../store/notices';
import { SceneBounds } from '../../store/scene-bounds';
import { ShotFaults } from '../../store/shot-faults';
import { Studio } from '../../store/studio';
import type { SurveyThread } from './survey.worker';

type Thread = Remote<SurveyThread> | SurveyThread;

/** The thread that looks through shots, begun when it is first needed. */
export const SURVEY_THREAD = new InjectionToken<() => Thread>('SURVEY_THREAD', {
  factory: () => () => wrap<SurveyThread>(new Worker(new URL('./survey.worker', import.meta.url), { type: 'module' })),
});

/** Milliseconds without an edit after which shots are looked at. */
const CALM = 900;

/** Looks through all frames of every shot in the background, each again only when something in it has changed. */
@Injectable({ providedIn: 'root' })
export class ShotSurvey {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  private readonly library = inject(MeshLibrary);
  private readonly faults = inject(ShotFaults);
  private readonly notices = inject(Notices);
  private readonly begin = inject(SURVEY_THREAD);
  private thread: Thread | null = null;
  /** What was looked at of each shot. */
  private readonly seen = new Map<string, string>();
  private learned: ReadonlyMap<string, unknown> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private working = false;

  constructor() {
    this.faults.fit = (shot, by) => void this.fit(shot, by);
    effect(() => {
      if (!this.studio.isOpen()) return;
      this.studio.document();
      this.bounds.meshes();
      untracked(() => this.soon());
    });
  }

  private soon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.lookOn(), CALM);
  }

  /** Looks at the shots that have changed, the present one first. */
  private async lookOn(): Promise<void> {
    if (this.working || !this.studio.isOpen() || this.bounds.meshes().size === 0) return;
    if (this.studio.playing()) return this.soon();
    const document = this.studio.document();
    const present = this.studio.shotId();
    const shots = shotsInOrder(document).sort((a, b) => Number(b.id === present) - Number(a.id === present));
    this.forget(document);
    const shot = shots.find((each) => this.seen.get(each.id) !== this.stampOf(document, each));
    if (!shot) return;
    this.working = true;
    try {
      const thread = await this.ready();
      const stamp = this.stampOf(document, shot);
      const found = await thread.survey(needed(document, shot), shot.id, aspectOf(document, shot));
      this.seen.set(shot.id, stamp);
      if (this.studio.document().shots[shot.id])
        this.faults.found.update((known) => new Map([...known, [shot.id, found]]));
    } catch {
      // What cannot be looked through is no reason to stop work; it is tried again after the next change.
      this.seen.set(shot.id, this.stampOf(document, shot));
    } finally {
      this.working = false;
    }
    this.timer = setTimeout(() => void this.lookOn(), 0);
  }

  private forget(document: ProjectDocument): void {
    const gone = [...this.seen.keys()].filter((id) => !document.shots[id]);
    if (gone.length === 0) return;
    for (const id of gone) this.seen.delete(id);
    this.faults.found.update((known) => new Map([...known].filter(([id]) => document.shots[id])));
  }

  private stampOf = (document: ProjectDocument, shot: Shot): string =>
    `${sceneDigest(document, shot.id)} ${shot.framed.join()} ${this.bounds.meshes().size} ${aspectOf(document, shot)}`;

  private async ready(): Promise<Thread> {
    this.thread ??= this.begin();
    const meshes = this.bounds.meshes();
    if (this.learned !== meshes) {
      const shapes: Shapes = new Map(
        [...meshes].map(([key, bounds]) => [
          key,
          { bounds, outline: this.library.outlines.get(key) ?? new Float32Array(0) },
        ]),
      );
      await this.thread.learn(shapes);
      this.learned = meshes;
    }
    return this.thread;
  }

  /** Gives a shot just so much room that what shall be seen stays in its picture. */
  private async fit(id: string, by: FitBy): Promise<void> {
    const document = this.studio.document();
    const shot = document.shots[id];
    if (!shot) return;
    try {
      const made = await (await this.ready()).fit(needed(document, shot), id, aspectOf(document, shot), by);
      if (!made)
        return this.notices.tell('No room is enough: something that shall stay in the picture is behind the camera.');
      this.studio.edit(by === 'lens' ? 'Fit by the lens' : 'Fit by distance', (draft) => {
        const { tracks, changes, moves } = made;
        Object.assign(draft.shots[id]!, { tracks, changes, moves });
      });
    } catch (error) {
      this.notices.tell(error);
    }
  }
}

const aspectOf = (document: ProjectDocument, shot: Shot): number => {
  const { width, height } = shot.picture ?? document.picture;
  return width / height;
};

/** Of the document only what a look through one shot needs, so that little has to be copied to the thread. */
const needed = (document: ProjectDocument, shot: Shot): ProjectDocument => ({
  ...document,
  assets: {},
  finishes: {},
  shots: { [shot.id]: shot },
  takeLooks: {},
});
