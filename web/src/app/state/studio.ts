import { behaviourOf, evaluate, evaluateProperties, rateOf, type FrameState } from '@zippy/core/motion';
import type { SceneState } from '@zippy/core/scene';
import { computed, inject, Injectable, signal, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  defaultLook,
  editFault,
  makeEdit,
  readProperty,
  writeProperty,
  type Key,
  type Look,
  type ProjectDocument,
  type Shot,
  type Value,
} from '@zippy/core/document';
import { StudioActions, type ViewState } from './studio.actions';
import type { Grade, Selected, SelectionKind, StudioState } from './studio.state';

/** The store as signals, and everything a user can do to it. */
@Injectable({ providedIn: 'root' })
export class Studio {
  private readonly store = inject<Store<{ studio: StudioState }>>(Store);
  readonly state = this.store.selectSignal(({ studio }) => studio);

  readonly document = this.pick((state) => state.document!);
  readonly shotId = this.pick((state) => state.shot);
  readonly frame = this.pick((state) => state.frame);
  readonly selection = this.pick((state) => state.selection);
  readonly takes = this.pick((state) => state.takes);
  readonly films = this.pick((state) => state.films);
  readonly desk = this.pick((state) => state.desk);
  readonly shot = computed((): Shot | null => {
    const id = this.shotId();
    return (id && this.document()?.shots[id]) || null;
  });
  /** Frames per second. */
  readonly frameRate = this.pick((state) => (state.document ? rateOf(state.document.frameRate) : 24));
  readonly lengthUnit = this.pick((state) => state.document?.settings.lengthUnit ?? 'mm');
  /** Size of the present shot's picture. */
  readonly pictureSize = computed(() => this.shot()?.picture ?? this.document().picture);
  /** Every property at its value on the present frame. */
  readonly present = computed((): SceneState => evaluateProperties(this.document(), this.shot(), this.frame()));
  /** The same without what moves do to places: where things rest, which is what fields show and change. */
  readonly placed = computed((): SceneState => {
    const shot = this.shot();
    const moves = Object.entries(shot?.moves ?? {}).filter(([, move]) => behaviourOf(move).drives === 'value');
    if (!shot || moves.length === Object.keys(shot.moves).length) return this.present();
    return evaluateProperties(this.document(), { ...shot, moves: Object.fromEntries(moves) }, this.frame());
  });
  readonly frameState = computed((): FrameState => evaluate(this.document(), this.shot(), this.frame()));
  readonly primary = computed((): Selected | null => this.selection().at(-1) ?? null);
  readonly selectedIds = computed(() => new Set(this.selection().map(({ id }) => id)));
  readonly selectedNodes = computed(() => this.selection().flatMap(({ kind, id }) => (kind === 'node' ? [id] : [])));

  /** Why the last edit that could not be done was not. */
  readonly refused = signal<string | null>(null);

  /** A new name for one continuous change, such as a drag. */

  edit(label: string, recipe: (draft: ProjectDocument) => void, gesture?: string): void {
    const made = makeEdit(this.document(), label, recipe, gesture);
    if (!made.edit) return;
    const fault = editFault(made.document, made.edit.patches);
    if (fault) this.refused.set(`${label}: nothing was changed. ${fault}`);
    else this.store.dispatch(StudioActions.edited({ document: made.document, edit: made.edit }));
  }

  /**
   * Sets a property as the user sees it: on a key where it moves or changes are being recorded, in the present shot where
   * the shot has its own value or changes are for it only, and in the resting state otherwise.
   */
  setProperty(label: string, path: string, value: Value, gesture?: string): void {
    this.setProperties(label, { [path]: value }, gesture);
  }

  /** Sets several properties in one edit; see `setProperty`. */
  setProperties(label: string, values: Record<string, Value>, gesture?: string): void {
    const { shot: shotId, frame, recording, thisShotOnly } = this.state();
    this.edit(
      label,
      (draft) => {
        const shot = shotId ? draft.shots[shotId] : undefined;
        for (const [path, value] of Object.entries(values)) {
          const track = shot?.tracks[path];
          if (shot && (track?.length || recording)) setKey((shot.tracks[path] ??= []), Math.round(frame), value);
          else if (shot && (thisShotOnly || path in shot.changes)) shot.changes[path] = value;
          else writeProperty(draft, path, value);
        }
      },
      gesture,
    );
  }

  /** Adds keys with the present values at the playhead, or takes away those that are there where the first has one. */
  toggleKeys(paths: readonly string[]): void {
    const { shot: shotId, frame } = this.state();
    const shot = this.shot();
    if (!shotId || !shot) return;
    const hasKey = (path: string) => shot.tracks[path]?.some((key) => key.frame === frame) ?? false;
    const remove = hasKey(paths[0] ?? '');
    this.edit('Key', (draft) => {
      const { tracks } = draft.shots[shotId]!;
      for (const path of paths) {
        const value = readProperty(this.present(), path);
        if (value === undefined) continue;
        const keys = (tracks[path] ??= []);
        const at = keys.findIndex((key) => key.frame === frame);
        if (!remove) setKey(keys, frame, value);
        else if (at >= 0) keys.splice(at, 1);
        if (keys.length === 0) delete tracks[path];
      }
    });
  }

  undo = (): void => this.store.dispatch(StudioActions.undone());
  redo = (): void => this.store.dispatch(StudioActions.redone());
  view = (view: Partial<ViewState>): void => this.store.dispatch(StudioActions.viewChanged({ view }));

  /** Nothing is selected, shown alone or lit: the card is the project's. */
  selectNothing(): void {
    this.view({ selection: [], keys: [], isolated: null, lit: null });
  }

  select(kind: SelectionKind, id: string, more = false): void {
    const present = this.selection();
    const there = present.some((each) => each.id === id && each.kind === kind);
    const selection = more
      ? there
        ? present.filter((each) => each.id !== id)
        : [...present, { kind, id }]
      : [{ kind, id }];
    this.view({ selection, keys: [] });
  }

  /** Sketch, traced, take where there is one for the shot, and round again. */
  nextGrade(): void {
    const { grade, takes, shot } = this.state();
    const grades: Grade[] = ['sketch', 'traced'];
    if (takes.some((take) => take.shot === shot)) grades.push('take');
    this.view({ grade: grades[(grades.indexOf(grade) + 1) % grades.length]! });
  }

  /** Shows two grades side by side with an edge between them, or one again. */
  toggleWipe(): void {
    const { grade, wipe, takes, shot } = this.state();
    if (wipe) return this.view({ wipe: null });
    const against: Grade =
      grade === 'sketch'
        ? takes.some((take) => take.shot === shot)
          ? 'take'
          : 'traced'
        : grade === 'take'
          ? 'traced'
          : 'sketch';
    this.view({ wipe: { against, at: 0.5 } });
  }

  goTo(frame: number): void {
    this.view({ frame: Math.round(frame) });
  }

  openShot(id: string, frame = 1): void {
    this.view({ shot: id, frame, throughCamera: true });
  }

  /** The look a take wears. */
  lookOf(take: string | null): Look {
    const document = this.document();
    return (take && document?.takeLooks[take]) || document?.look || defaultLook();
  }

  /** A look as the picture shows it: without cleaning while one looks at what was there before it. */
  shownLook(look: Look): Look {
    return this.state().uncleaned ? { ...look, denoise: 0, specks: 0 } : look;
  }

  private pick<T>(select: (state: StudioState) => T): Signal<T> {
    return this.store.selectSignal(({ studio }) => select(studio));
  }
}

function setKey(keys: Key[], frame: number, value: Value): void {
  const present = keys.find((key) => key.frame === frame);
  if (present) present.value = value;
  else {
    keys.push({ frame, value, pace: 'ease' });
    keys.sort((a, b) => a.frame - b.frame);
  }
}
