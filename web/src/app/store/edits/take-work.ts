import { inject, Injectable } from '@angular/core';
import type { Take } from '@zippy/core/wire';
import { Api } from '../../api/api';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../notices';
import { Session } from '../session';
import { Studio } from '../studio';
import { Things } from './things';

/** What is done with takes. */
@Injectable({ providedIn: 'root' })
export class TakeWork {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly things = inject(Things);

  /** Shows a take where its shot stands; its own look begins as the project's. */
  show(take: Take): void {
    if (take.shot !== this.studio.shotId() && this.studio.document().shots[take.shot]) this.studio.openShot(take.shot);
    const frame = Math.min(take.last, Math.max(take.first, this.studio.frame()));
    if (!this.studio.document().takeLooks[take.id]) {
      this.studio.edit('Look of the take', (draft) => void (draft.takeLooks[take.id] = { ...draft.look }));
    }
    this.studio.showTake(take.id, frame);
    this.studio.select('take', take.id);
  }

  putOnReel(take: Take): void {
    this.things.addClip(take.id, take.first, take.last);
    this.studio.openDesk('reel');
  }

  stop = (take: Take): Promise<void> => this.act(this.api.stopTake(take.id));
  continue = (take: Take): Promise<void> => this.act(this.api.continueTake(take.id));

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
