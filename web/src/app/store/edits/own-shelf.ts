import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { newDocument, newShot, nextName, openDocument, type Finish, type ProjectDocument } from '@zippy/core/document';
import { liftThings, putThings, type Bundle } from '@zippy/core/scene';
import { Api } from '../../api/api';
import { KeptActions } from '../kept/kept.actions';
import { keptFeature } from '../kept/kept.feature';
import { Notices } from '../notices';
import { Studio } from '../studio';

const SHOT = 'motion';

/** A finish of the user's own shelf. */
export interface OwnFinish {
  id: string;
  name: string;
  folder: string;
  finish: Finish;
  document: ProjectDocument;
}

/** Finishes that the user keeps for all projects, with their pictures, maps and motion. */
@Injectable({ providedIn: 'root' })
export class OwnShelf {
  private readonly studio = inject(Studio);
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly kept = this.store.selectSignal(keptFeature.selectAll);

  /** What of it can be read; what a newer version has kept waits for that. */
  readonly all = computed((): OwnFinish[] =>
    this.kept().flatMap(({ id, name, folder, document }) => {
      try {
        const opened = openDocument(document);
        const [finish] = Object.values(opened.finishes);
        return finish ? [{ id, name, folder, finish: { ...finish, name }, document: opened }] : [];
      } catch {
        return [];
      }
    }),
  );
  readonly folders = computed(() => [...new Set(this.all().map(({ folder }) => folder))].sort());

  load(): void {
    this.store.dispatch(KeptActions.wanted());
  }

  /** Keeps a finish of the project as it is now, with the keys and moves that the present shot gives it. */
  async keep(id: string, folder = ''): Promise<void> {
    const document = this.studio.document();
    const finish = document.finishes[id];
    if (!finish) return;
    try {
      const kept = await this.api.keepFinish(finish.name, folder, alone(document, this.studio.shotId(), id));
      this.store.dispatch(KeptActions.wanted());
      this.notices.say(`"${kept.name}" is on your shelf now, in every project.`);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  async change(id: string, name: string, folder: string): Promise<void> {
    await this.ask(() => this.api.changeKept(id, name, folder));
  }

  async remove(id: string): Promise<void> {
    await this.ask(() => this.api.removeKept(id));
  }

  private async ask(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.store.dispatch(KeptActions.wanted());
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Brings a kept finish into the project, with its motion in the present shot, in one step. @returns its id here */
  bring({ document, name }: OwnFinish): string {
    const [id] = Object.keys(document.finishes) as [string];
    const shot = document.shots[SHOT];
    const marks = Object.entries(shot?.tracks ?? {}).flatMap(([path, keys]) =>
      keys.map(({ frame }) => ({ path, frame })),
    );
    const moves = Object.keys(shot?.moves ?? {}).map((move) => ({ kind: 'move' as const, id: move }));
    const bundle = liftThings(document, SHOT, [{ kind: 'finish', id }, ...moves], marks);
    let brought = '';
    this.studio.edit(`Bring in ${name}`, (draft) => {
      const place = { shot: this.studio.shotId(), frame: Math.round(this.studio.frame()) };
      const [made] = putThings(draft, { ...bundle, moves: {}, tracks: {} }, place);
      brought = made!.id;
      const others = Object.values(draft.finishes).flatMap((each) => (each.id === brought ? [] : each.name));
      draft.finishes[brought]!.name = nextName(others, name);
      putThings(draft, motionOf(bundle, id, brought), { ...place, onto: [{ kind: 'finish', id: brought }] });
    });
    return brought;
  }
}

/** A small project that holds one finish alone. */
function alone(document: ProjectDocument, shotId: string | null, id: string): ProjectDocument {
  const own = `finishes/${id}/`;
  const shot = shotId === null ? undefined : document.shots[shotId];
  const { assets, finishes } = liftThings(document, shotId, [{ kind: 'finish', id }]);
  const kept = newDocument(document.finishes[id]!.name);
  const mine = <T>(record: Record<string, T>, of: (key: string, value: T) => string): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([key, value]) => of(key, value).startsWith(own)));
  return {
    ...kept,
    frameRate: document.frameRate,
    assets,
    finishes,
    shots: {
      [SHOT]: newShot({
        id: SHOT,
        length: shot?.length ?? 96,
        tracks: mine(shot?.tracks ?? {}, (path) => path),
        moves: mine(shot?.moves ?? {}, (_, { target }) => target),
      }),
    },
  };
}

/** The motion of a bundle, on a finish that has got another id. */
function motionOf(bundle: Bundle, from: string, to: string): Bundle {
  const renamed = (path: string) => path.replace(`finishes/${from}/`, `finishes/${to}/`);
  return {
    ...bundle,
    assets: {},
    finishes: {},
    meant: [],
    moves: Object.fromEntries(
      Object.entries(bundle.moves).map(([id, move]) => [id, { ...move, target: renamed(move.target) }]),
    ),
    tracks: Object.fromEntries(Object.entries(bundle.tracks).map(([path, keys]) => [renamed(path), keys])),
  };
}
