import {
  dressedBy,
  behaviourOf,
  evaluate,
  evaluateProperties,
  rateOf,
  trackValue,
  type FrameState,
} from '@zippy/core/motion';
import type { SceneState } from '@zippy/core/scene';
import { computed, inject, Injectable, linkedSignal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  defaultLook,
  editFault,
  makeEdit,
  propertyKind,
  readProperty,
  sceneDigest,
  writeProperty,
  type Key,
  type Look,
  type ProjectDocument,
  type Value,
  lookOf,
} from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import type { Desk } from '../desks/registry';
import { filmsFeature } from './films/films.feature';
import { Notices } from './notices';
import { ProjectActions } from './project/project.actions';
import { projectFeature } from './project/project.feature';
import { takesFeature } from './takes/takes.feature';
import { ViewActions } from './view/view.actions';
import { viewFeature } from './view/view.feature';
import {
  selectFrame,
  selectIsolated,
  selectLit,
  selectSelection,
  selectShot,
  selectShotId,
} from './view/view.selectors';
import type { Grade, KeyMark, Region, Selected, SelectionKind, ViewState } from './view/view.state';

/** Where properties lie that move with the film and not with a shot. */
const ON_REEL = 'reel/';

/** The store as signals, and everything a user can do to it. */
@Injectable({ providedIn: 'root' })
export class Studio {
  private readonly store = inject(Store);
  private readonly notices = inject(Notices);

  readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly opened = this.store.selectSignal(projectFeature.selectDocument);
  /** A project is open: there is a document. */
  readonly isOpen = computed(() => this.opened() !== null);
  readonly document = computed((): ProjectDocument => this.opened()!);
  readonly history = this.store.selectSignal(projectFeature.selectHistory);
  readonly saved = this.store.selectSignal(projectFeature.selectSaved);
  readonly conflict = this.store.selectSignal(projectFeature.selectConflict);
  readonly takes = this.store.selectSignal(takesFeature.selectAll);
  readonly working = this.store.selectSignal(takesFeature.selectWorking);
  readonly films = this.store.selectSignal(filmsFeature.selectAll);

  readonly desk = this.store.selectSignal(viewFeature.selectDesk);
  readonly selection = this.store.selectSignal(selectSelection);
  readonly keys = this.store.selectSignal(viewFeature.selectKeys);
  readonly shotId = this.store.selectSignal(selectShotId);
  readonly shot = this.store.selectSignal(selectShot);
  readonly frame = this.store.selectSignal(selectFrame);
  readonly playing = this.store.selectSignal(viewFeature.selectPlaying);
  readonly recording = this.store.selectSignal(viewFeature.selectRecording);
  readonly thisShotOnly = this.store.selectSignal(viewFeature.selectThisShotOnly);
  readonly grade = this.store.selectSignal(viewFeature.selectGrade);
  readonly wipe = this.store.selectSignal(viewFeature.selectWipe);
  readonly region = this.store.selectSignal(viewFeature.selectRegion);
  readonly throughCamera = this.store.selectSignal(viewFeature.selectThroughCamera);
  readonly isolated = this.store.selectSignal(selectIsolated);
  readonly lit = this.store.selectSignal(selectLit);
  readonly apart = this.store.selectSignal(viewFeature.selectApart);
  readonly sharpness = this.store.selectSignal(viewFeature.selectSharpness);
  readonly uncleaned = this.store.selectSignal(viewFeature.selectUncleaned);
  readonly shownTake = this.store.selectSignal(viewFeature.selectShownTake);
  private readonly reelFrame = this.store.selectSignal(viewFeature.selectReelFrame);

  /** Frames per second. */
  readonly frameRate = computed(() => (this.isOpen() ? rateOf(this.document().frameRate) : 24));
  readonly lengthUnit = computed(() => (this.isOpen() ? this.document().settings.lengthUnit : 'mm'));
  /** Size of the present shot's picture. */
  readonly pictureSize = computed(() => this.shot()?.picture ?? this.document().picture);
  /** Every property at its value on the present frame. */
  readonly present = computed((): SceneState => evaluateProperties(this.document(), this.shot(), this.frame()));
  /** The same without what moves do to places: where things rest, which is what fields show and change. */
  readonly placed = computed((): SceneState => this.placedOn(this.frame()) ?? this.present());
  /** What a part wears in the colourway that is shown: the id of a finish. */
  readonly dressed = computed(() => dressedBy(this.document(), this.shot() ?? null));
  readonly frameState = computed((): FrameState =>
    evaluate(this.document(), this.shot(), this.frame(), this.present()),
  );
  /** The playhead as panels see it: it rests while the shot plays, so that no frame wakes them. */
  readonly restFrame = linkedSignal<{ playing: boolean; frame: number }, number>({
    source: () => (this.playing() ? { playing: true, frame: 0 } : { playing: false, frame: this.frame() }),
    computation: ({ playing, frame }, before) => (playing ? (before?.value ?? untracked(this.frame)) : frame),
  });
  /** What `present`, `placed` and `frameState` are there. */
  readonly presentAtRest = computed(() =>
    this.playing() ? evaluateProperties(this.document(), this.shot(), this.restFrame()) : this.present(),
  );
  readonly placedAtRest = computed(() =>
    this.playing() ? (this.placedOn(this.restFrame()) ?? this.presentAtRest()) : this.placed(),
  );
  readonly frameStateAtRest = computed(() =>
    this.playing() ? evaluate(this.document(), this.shot(), this.restFrame(), this.presentAtRest()) : this.frameState(),
  );
  readonly primary = computed((): Selected | null => this.selection().at(-1) ?? null);
  readonly selectedIds = computed(() => new Set(this.selection().map(({ id }) => id)));
  readonly selectedNodes = computed(() => this.selection().flatMap(({ kind, id }) => (kind === 'node' ? [id] : [])));

  /** Null where no move changes a place: it is what is present then. */
  private placedOn(frame: number): SceneState | null {
    const shot = this.shot();
    const moves = Object.entries(shot?.moves ?? {}).filter(([, move]) => behaviourOf(move).drives === 'value');
    if (!shot || moves.length === Object.keys(shot.moves).length) return null;
    return evaluateProperties(this.document(), { ...shot, moves: Object.fromEntries(moves) }, frame);
  }

  edit(label: string, recipe: (draft: ProjectDocument) => void, gesture?: string): void {
    const made = makeEdit(this.document(), label, recipe, gesture);
    if (!made.edit) return;
    const fault = editFault(made.document, made.edit.patches);
    if (fault) this.notices.tell(`${label}: nothing was changed. ${fault}`);
    else this.store.dispatch(ProjectActions.edited({ document: made.document, edit: made.edit }));
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
    const [shotId, frame] = [this.shotId(), this.frame()];
    const [recording, thisShotOnly] = [this.recording(), this.thisShotOnly()];
    this.edit(
      label,
      (draft) => {
        const shot = shotId ? draft.shots[shotId] : undefined;
        for (const [path, value] of Object.entries(values)) {
          if (path.startsWith(ON_REEL)) {
            const { tracks } = draft.reel;
            if (tracks[path]?.length || recording) setKey((tracks[path] ??= []), this.reelFrame(), value);
            else writeProperty(draft, path, value);
            continue;
          }
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
    const shotId = this.shotId();
    const [first = ''] = paths;
    const onReel = first.startsWith(ON_REEL);
    const frame = onReel ? this.reelFrame() : this.frame();
    if (!onReel && !shotId) return;
    const remove = this.keysOf(first)?.some((key) => key.frame === frame) ?? false;
    this.edit('Key', (draft) => {
      const { tracks } = onReel ? draft.reel : draft.shots[shotId!]!;
      for (const path of paths) {
        const value = onReel ? this.valueOnReel(path) : readProperty(this.present(), path);
        if (value === undefined) continue;
        const keys = (tracks[path] ??= []);
        const at = keys.findIndex((key) => key.frame === frame);
        if (!remove) setKey(keys, frame, value);
        else if (at >= 0) keys.splice(at, 1);
        if (keys.length === 0) delete tracks[path];
      }
    });
  }

  /** Keys of a property: of what lies over the film those of the film, and else those of the present shot. */
  keysOf(path: string): readonly Key[] | undefined {
    return path.startsWith(ON_REEL) ? this.document().reel.tracks[path] : this.shot()?.tracks[path];
  }

  /** A property of what lies over the film, on the frame of the film that one is at. */
  valueOnReel(path: string, frame = this.reelFrame()): Value | undefined {
    const resting = readProperty(this.document(), path);
    const keys = this.document().reel.tracks[path];
    if (!keys?.length || resting === undefined) return resting;
    return trackValue(keys, frame, propertyKind(path, resting));
  }

  /** Keys at the playhead for how all that is selected stands now, and for whatever else of it moves already. */
  keySelected(): void {
    const standing = { node: ['position', 'turn', 'scale'], light: ['position', 'target'], camera: ['position', 'target', 'roll'] } as const; // prettier-ignore
    const tracks = Object.keys(this.shot()?.tracks ?? {});
    const paths = this.selection().flatMap(({ kind, id }) => {
      const thing = `${kind}s/${id}`;
      const own = kind in standing ? standing[kind as keyof typeof standing].map((name) => `${thing}/${name}`) : [];
      return [...own, ...tracks.filter((path) => path.startsWith(`${thing}/`))];
    });
    const [shotId, frame, present] = [this.shotId(), this.frame(), this.placed()];
    if (!shotId || paths.length === 0) return;
    this.edit('Keys of what is selected', (draft) => {
      const { tracks: own } = draft.shots[shotId]!;
      for (const path of new Set(paths)) {
        const value = readProperty(present, path) ?? readProperty(this.present(), path);
        if (value !== undefined) setKey((own[path] ??= []), frame, value);
      }
    });
  }

  undo = (): void => this.store.dispatch(ProjectActions.undone());
  redo = (): void => this.store.dispatch(ProjectActions.redone());

  openDesk(desk: Desk): void {
    this.store.dispatch(ViewActions.deskOpened({ desk }));
  }

  select(kind: SelectionKind, id: string, more = false): void {
    const present = this.selection();
    const there = present.some((each) => each.id === id && each.kind === kind);
    const selection = more
      ? there
        ? present.filter((each) => each.id !== id)
        : [...present, { kind, id }]
      : [{ kind, id }];
    this.selectAll(selection);
  }

  selectAll(selection: Selected[]): void {
    this.store.dispatch(ViewActions.selected({ selection }));
  }

  /** Nothing is selected, shown alone or lit: the card is the project's. */
  selectNothing(): void {
    this.store.dispatch(ViewActions.nothingSelected());
  }

  pickKeys(keys: KeyMark[]): void {
    this.store.dispatch(ViewActions.keysPicked({ keys }));
  }

  goTo(frame: number): void {
    this.store.dispatch(ViewActions.playheadMoved({ frame: Math.round(frame) }));
  }

  openShot(shot: string, frame = 1): void {
    this.store.dispatch(ViewActions.shotOpened({ shot, frame }));
  }

  play(on = !this.playing()): void {
    this.store.dispatch(ViewActions.playingSwitched({ on }));
  }

  record(on = !this.recording()): void {
    this.store.dispatch(ViewActions.recordingSwitched({ on }));
  }

  changeThisShotOnly(on = !this.thisShotOnly()): void {
    this.store.dispatch(ViewActions.thisShotOnlySwitched({ on }));
  }

  showGrade(grade: Grade): void {
    this.store.dispatch(ViewActions.gradeShown({ grade }));
  }

  /** Sketch, settle, traced, take where there is one for the shot, and round again. */
  nextGrade(): void {
    const grades: Grade[] = ['sketch', 'settle', 'traced', ...(this.hasTake() ? ['take' as const] : [])];
    this.showGrade(grades[(grades.indexOf(this.grade()) + 1) % grades.length]!);
  }

  setWipe(wipe: ViewState['wipe']): void {
    this.store.dispatch(ViewActions.wipeSet({ wipe }));
  }

  /** Shows two grades side by side with an edge between them, or one again. */
  toggleWipe(): void {
    if (this.wipe()) return this.setWipe(null);
    const besides: Record<Grade, Grade> = {
      sketch: this.hasTake() ? 'take' : 'traced',
      settle: this.hasTake() ? 'take' : 'traced',
      traced: 'sketch',
      take: 'traced',
    };
    this.setWipe({ against: besides[this.grade()], at: 0.5, way: 'edge' });
  }

  private hasTake(): boolean {
    return this.takes().some((take) => take.shot === this.shotId());
  }

  markRegion(region: Region | null): void {
    this.store.dispatch(ViewActions.regionMarked({ region }));
  }

  lookThroughCamera(on = !this.throughCamera()): void {
    this.store.dispatch(on ? ViewActions.cameraEntered() : ViewActions.cameraLeft());
  }

  /** Shows a node alone, or all again. */
  isolate(node: string | null): void {
    this.store.dispatch(ViewActions.nodeIsolated({ node }));
  }

  /** Dims all but one part, or nothing. */
  light(node: string | null): void {
    this.store.dispatch(ViewActions.partLit({ node }));
  }

  drawApart(by: number): void {
    this.store.dispatch(ViewActions.partsDrawnApart({ by }));
  }

  showSharpness(on = !this.sharpness()): void {
    this.store.dispatch(ViewActions.sharpnessShown({ on }));
  }

  leaveCleaningOut(on = !this.uncleaned()): void {
    this.store.dispatch(ViewActions.cleaningLeftOut({ on }));
  }

  showTake(take: string, frame: number): void {
    this.store.dispatch(ViewActions.takeShown({ take, frame }));
  }

  /** Whether the scene has been changed since a take of it was rendered, as far as that is known. */
  isOlder({ scene, shot }: Take): boolean {
    return scene !== '' && scene !== sceneDigest(this.document(), shot);
  }

  /** The look a take wears. */
  lookOf(take: string | null): Look {
    if (!this.isOpen()) return defaultLook();
    const shot = this.takes().find(({ id }) => id === take)?.shot ?? this.shotId();
    return lookOf(this.document(), shot, take);
  }

  /** The look of the present shot: its own, or the project's. */
  readonly look = computed(() => (this.isOpen() ? lookOf(this.document(), this.shotId()) : defaultLook()));

  /** A look as the picture shows it: without cleaning while one looks at what was there before it. */
  shownLook(look: Look): Look {
    return this.uncleaned() ? { ...look, denoise: 0, specks: 0 } : look;
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
