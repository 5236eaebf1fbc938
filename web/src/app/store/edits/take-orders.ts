import { inject, Injectable } from '@angular/core';
import { sceneDigest } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { settingsOfShot, type RenderSettings } from '@zippy/core/trace';
import type { Take } from '@zippy/core/wire';
import { Api, ServerProblem } from '../../api/api';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../notices';
import { Session } from '../session';
import { Studio } from '../studio';
import { TakeWork } from './take-work';

/** What of a shot is rendered. */
export interface TakeOrder {
  shot: string;
  first: number;
  last: number;
  settings: RenderSettings;
  /** Instead of the one that the shot shows. */
  colourway?: string | undefined;
}

/** Asks for takes. */
@Injectable({ providedIn: 'root' })
export class TakeOrders {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly takeWork = inject(TakeWork);

  /** Saves, queues takes one after another, and shows the last. What goes wrong is told. */
  async place(orders: readonly TakeOrder[]): Promise<void> {
    const project = this.studio.project();
    if (!project || orders.length === 0) return;
    const document = this.studio.document();
    let take: Take | null = null;
    try {
      await this.session.save();
      for (const { shot, first, last, settings, colourway } of orders) {
        const own = { ...document.shots[shot]!, ...(colourway === undefined ? {} : { colourway }) };
        const scene = sceneDigest({ ...document, shots: { ...document.shots, [shot]: own } }, shot);
        const order = (anyway: boolean) =>
          this.api.createTake(project, shot, first, last, settings, scene, colourway, anyway);
        take = await order(false).catch(async (error: unknown) => {
          if (!(error instanceof ServerProblem) || error.code !== 'disk-short') throw error;
          // It is only foreseen: frames that repeat take their room once.
          const sure = await this.ask.sure('The disk may be too small', error.message, 'Render all the same');
          return sure ? order(true) : null;
        });
        if (!take) break;
      }
    } catch (error) {
      this.notices.tell(error);
    }
    // Those that were queued before something went wrong are there.
    if (!take) return;
    await this.session.refreshTakes().catch((error: unknown) => this.notices.tell(error));
    this.takeWork.show(take);
  }

  /** The range of a shot, by its settings. */
  whole(shot: string): TakeOrder[] {
    const document = this.studio.document();
    const own = document.shots[shot];
    if (!own) return [];
    const [first, last] = rangeOf(own);
    return [{ shot, first, last, settings: settingsOfShot(document, own) }];
  }

  /** The same frames by the same settings, of the scene as it is now. */
  again = ({ shot, first, last, settings }: Take): Promise<void> => {
    const length = this.studio.document().shots[shot]?.length ?? 0;
    return this.place([{ shot, first: Math.min(first, length), last: Math.min(last, length), settings }]);
  };
}
