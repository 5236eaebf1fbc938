import { createFeature, createReducer, on } from '@ngrx/store';
import { ProjectActions } from '../project/project.actions';
import { ViewActions } from './view.actions';
import { plainView, type ViewState } from './view.state';

const set =
  <P>(change: (given: P) => Partial<ViewState>) =>
  (state: ViewState, given: P): ViewState => ({ ...state, ...change(given) });

export const viewFeature = createFeature({
  name: 'view',
  reducer: createReducer(
    plainView,
    // A newer state of the same project leaves the view as it is.
    on(ProjectActions.opened, (state, { project }): ViewState =>
      state.project === project.id ? state : { ...plainView, project: project.id, desk: state.desk },
    ),
    on(ProjectActions.closed, () => plainView),
    on(
      ViewActions.deskOpened,
      set(({ desk }) => ({ desk, reelSeen: true })),
    ),
    on(
      ViewActions.selected,
      set(({ selection }) => ({ selection, keys: [] })),
    ),
    on(
      ViewActions.nothingSelected,
      set(() => ({ selection: [], keys: [], isolated: null, lit: null })),
    ),
    on(
      ViewActions.keysPicked,
      set(({ keys }) => ({ keys })),
    ),
    on(
      ViewActions.shotOpened,
      set(({ shot, frame }) => ({ shot, frame, throughCamera: true })),
    ),
    on(
      ViewActions.playheadMoved,
      set(({ frame }) => ({ frame })),
    ),
    on(
      ViewActions.playingSwitched,
      set(({ on: playing }) => ({ playing })),
    ),
    on(
      ViewActions.recordingSwitched,
      set(({ on: recording }) => ({ recording })),
    ),
    on(
      ViewActions.thisShotOnlySwitched,
      set(({ on: thisShotOnly }) => ({ thisShotOnly })),
    ),
    on(
      ViewActions.gradeShown,
      set(({ grade }) => ({ grade, reelSeen: false })),
    ),
    on(
      ViewActions.wipeSet,
      set(({ wipe }) => ({ wipe })),
    ),
    on(
      ViewActions.regionMarked,
      set(({ region }) => ({ region })),
    ),
    on(
      ViewActions.cameraLeft,
      set(() => ({ throughCamera: false })),
    ),
    on(
      ViewActions.cameraEntered,
      set(() => ({ throughCamera: true })),
    ),
    on(
      ViewActions.nodeIsolated,
      set(({ node }) => ({ isolated: node, lit: null })),
    ),
    on(
      ViewActions.partLit,
      set(({ node }) => ({ lit: node, isolated: null })),
    ),
    on(
      ViewActions.partsDrawnApart,
      set(({ by }) => ({ apart: by })),
    ),
    on(
      ViewActions.sharpnessShown,
      set(({ on: sharpness }) => ({ sharpness })),
    ),
    on(
      ViewActions.cleaningLeftOut,
      set(({ on: uncleaned }) => ({ uncleaned })),
    ),
    on(
      ViewActions.takeShown,
      set(({ take, frame }) => ({ shownTake: take, grade: 'take' as const, frame, reelSeen: false })),
    ),
    on(
      ViewActions.reelPlayheadMoved,
      set(({ frame }) => ({ reelFrame: frame, reelSeen: true })),
    ),
    on(
      ViewActions.reelSeen,
      set(() => ({ reelSeen: true })),
    ),
  ),
});
