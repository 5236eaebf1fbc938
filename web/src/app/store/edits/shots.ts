import { inject, Injectable } from '@angular/core';
import { lastOrder, newId, nextName, shotsInOrder, type ProjectDocument } from '@zippy/core/document';
import { mendLoop, splitShot } from '@zippy/core/motion';
import { Notices } from '../notices';
import { Studio } from '../studio';

/** Shots as parts of the film. */
@Injectable({ providedIn: 'root' })
export class Shots {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);

  /** Cuts the present shot before the playhead; what moves goes on in the second part. */
  split(): void {
    const [shot, frame] = [this.studio.shot(), Math.round(this.studio.frame())];
    if (!shot) return;
    if (frame <= 1) return this.notices.say('Put the playhead where the second part shall begin, then split the shot.');
    const id = newId();
    const [first, second] = splitShot(shot, frame, id);
    this.studio.edit('Split shot', (draft) => {
      const names = Object.values(draft.shots).map(({ name }) => name);
      draft.shots[shot.id] = first;
      draft.shots[id] = { ...second, name: nextName(names, shot.name), order: lastOrder(draft.shots) };
      const others = shotsInOrder(draft).filter((each) => each.id !== id);
      const at = others.findIndex((each) => each.id === shot.id);
      others.splice(at + 1, 0, draft.shots[id]);
      others.forEach((each, k) => (draft.shots[each.id]!.order = k));
    });
    this.studio.openShot(id);
    this.studio.select('shot', id);
  }

  /** Puts a shot at another place in the film. */
  reorder(from: number, to: number): void {
    if (from === to) return;
    this.studio.edit('Order of shots', (draft) => {
      const shots = shotsInOrder(draft);
      const [moved] = shots.splice(from, 1);
      if (!moved) return;
      shots.splice(to, 0, moved);
      shots.forEach(({ id }, k) => (draft.shots[id]!.order = k));
    });
  }

  /** Leaves shots out of the film, or takes them in again where the first is left out. */
  include(ids: readonly string[]): void {
    const included = !(this.studio.document().shots[ids[0] ?? '']?.included ?? true);
    this.studio.edit(included ? 'Take into the film' : 'Leave out of the film', (draft) => {
      for (const id of ids) if (draft.shots[id]) draft.shots[id].included = included;
    });
  }

  /** Has the present shot run from its last frame into its first. */
  mendLoop(): void {
    const [document, shot] = [this.studio.document(), this.studio.shot()];
    if (!shot) return;
    const made = mendLoop(document, shot);
    this.studio.edit('Make it loop', (draft: ProjectDocument) => {
      Object.assign(draft.shots[shot.id]!, { tracks: made.tracks, moves: made.moves });
    });
  }
}
