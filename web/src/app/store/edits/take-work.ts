import { inject, Injectable } from '@angular/core';
import { copyOf, lookOf, type ProjectDocument } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { Api } from '../../api/api';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../notices';
import { Session } from '../session';
import { Studio } from '../studio';
import { ReelEdits } from './reel-edits';

export type TakeNote = ProjectDocument['takeNotes'][string];
const NOTHING_SAID: TakeNote = { name: '', note: '', starred: false };

/** Takes that wait or are rendered, the next first. */
export const queueOf = (takes: readonly Take[]): Take[] =>
  takes.filter(({ state }) => state === 'waiting' || state === 'rendering').sort((a, b) => a.order - b.order);

/** What is done with takes. */
@Injectable({ providedIn: 'root' })
export class TakeWork {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly reel = inject(ReelEdits);

  /** Shows a take where its shot stands; its own look begins as the project's. */
  show(take: Take): void {
    if (take.shot !== this.studio.shotId() && this.studio.document().shots[take.shot]) this.studio.openShot(take.shot);
    const frame = Math.min(take.last, Math.max(take.first, this.studio.frame()));
    if (!this.studio.document().takeLooks[take.id]) {
      this.studio.edit(
        'Look of the take',
        (draft) => void (draft.takeLooks[take.id] = copyOf(lookOf(draft, take.shot))),
      );
    }
    this.studio.showTake(take.id, frame);
    this.studio.select('take', take.id);
  }

  putOnReel(take: Take): void {
    this.reel.addTake(take.id, take.first, take.last);
    this.studio.openDesk('reel');
  }

  stop = (take: Take): Promise<void> => this.act(this.api.stopTake(take.id));
  continue = (take: Take): Promise<void> => this.act(this.api.continueTake(take.id));

  /** Puts a take before another one in the queue; null is behind all. */
  queueBefore = (take: Take, before: Take | null): Promise<void> =>
    this.act(this.api.queueTake(take.id, before?.id ?? null));

  /** Stops whatever waits and is rendered; frames keep their samples. */
  async stopAll(): Promise<void> {
    const queue = queueOf(this.studio.takes());
    // The one at work last: otherwise the next would begin meanwhile.
    for (const take of queue.reverse()) await this.act(this.api.stopTake(take.id));
  }

  async continueAll(): Promise<void> {
    const left = this.studio.takes().filter(({ state }) => state === 'stopped' || state === 'failed');
    for (const take of left) await this.act(this.api.continueTake(take.id));
  }

  /** What the user says of a take. @param gesture joins what is typed into one step of undo */
  note(id: string, over: Partial<TakeNote>, gesture = ''): void {
    const change = (draft: ProjectDocument) => {
      const note = { ...NOTHING_SAID, ...draft.takeNotes[id], ...over };
      if (note.name === '' && note.note === '' && !note.starred) delete draft.takeNotes[id];
      else draft.takeNotes[id] = note;
    };
    this.studio.edit('Note on a take', change, gesture);
  }

  noteOf = (id: string): TakeNote => this.studio.document().takeNotes[id] ?? NOTHING_SAID;

  /** The settings of a take become those that its shot is rendered by. */
  takeSettings(take: Take): void {
    const { width, height, ...settings } = take.settings;
    const way = Object.fromEntries(Object.entries(settings).filter(([name]) => name !== 'region'));
    this.studio.edit(`Settings of take ${take.number}`, (draft) => {
      const shot = draft.shots[take.shot];
      const render = shot?.render ?? draft.render;
      Object.assign(render, copyOf(way), { share: 'full' });
      if (shot?.picture) Object.assign(shot.picture, { width, height });
      else Object.assign(draft.picture, { width, height });
    });
  }

  async remove(take: Take): Promise<void> {
    const text = 'Frames that other takes show too are kept.';
    if (await this.ask.sure(`Delete take ${take.number}?`, text, 'Delete'))
      await this.act(this.api.removeTake(take.id));
  }

  private async act(action: Promise<unknown>): Promise<void> {
    try {
      await action;
      await this.session.refreshTakes();
    } catch (error) {
      this.notices.tell(error);
    }
  }
}
