import { createReducer, on } from '@ngrx/store';
import {
  applyDocumentPatches,
  emptyHistory,
  redo,
  remember,
  shotsInOrder,
  undo,
  without,
  type DocumentPatch,
  type ProjectDocument,
} from '@zippy/core/document';
import { StudioActions } from './studio.actions';
import { initialState, type StudioState } from './studio.state';

export const studioReducer = createReducer(
  initialState,
  on(StudioActions.projectOpened, (state, { project }): StudioState => {
    const same = state.project === project.id;
    return keepInside({
      ...(same ? state : { ...initialState, desk: state.desk }),
      project: project.id,
      revision: project.revision,
      document: project.document,
      base: project.document,
      history: emptyHistory,
      unsaved: [],
      saved: 'saved',
      conflict: null,
      shot: state.shot ?? shotsInOrder(project.document)[0]?.id ?? null,
    });
  }),
  on(StudioActions.projectClosed, () => initialState),
  on(StudioActions.edited, (state, { document, edit }): StudioState =>
    keepInside({
      ...state,
      document,
      history: remember(state.history, edit),
      unsaved: [...state.unsaved, ...edit.patches],
      saved: state.saved === 'saved' ? 'waiting' : state.saved,
    }),
  ),
  on(StudioActions.undone, (state) => step(state, undo)),
  on(StudioActions.redone, (state) => step(state, redo)),
  on(StudioActions.saveConfirmed, (state, { revision, count }): StudioState => {
    const unsaved = state.unsaved.slice(count);
    const base = unsaved.length === 0 ? state.document : advance(state.base, state.unsaved.slice(0, count));
    return { ...state, revision, base, unsaved, saved: unsaved.length > 0 ? 'waiting' : 'saved' };
  }),
  on(StudioActions.serverLost, (state): StudioState => ({ ...state, saved: 'offline' })),
  on(StudioActions.saveBegan, (state): StudioState => ({ ...state, saved: 'waiting' })),
  on(StudioActions.conflictMet, (state, { conflict }): StudioState => ({ ...state, saved: 'conflict', conflict })),
  on(StudioActions.conflictMerged, (state, { document, base, revision, unsaved }): StudioState =>
    keepInside({
      ...state,
      document,
      base,
      revision,
      unsaved,
      saved: unsaved.length > 0 ? 'waiting' : 'saved',
      conflict: null,
      history: emptyHistory,
    }),
  ),
  on(StudioActions.refusedSetAside, (state, { document, base, revision, unsaved, refused }): StudioState =>
    keepInside({
      ...state,
      document,
      base,
      revision,
      unsaved,
      saved: unsaved.length > 0 ? 'waiting' : 'saved',
      history: without(state.history, refused),
    }),
  ),
  on(StudioActions.historyTakenUp, (state, { history }): StudioState => ({ ...state, history })),
  on(StudioActions.viewChanged, (state, { view }): StudioState => keepInside({ ...state, ...view })),
  on(StudioActions.takesArrived, (state, { takes }): StudioState => ({ ...state, takes })),
  on(StudioActions.framesRendered, (state, { take, frames, named }): StudioState => ({
    ...state,
    takes: state.takes.map((each) =>
      each.id === take ? { ...each, named, done: [...new Set([...each.done, ...frames])].sort((a, b) => a - b) } : each,
    ),
  })),
  on(StudioActions.filmsArrived, (state, { films }): StudioState => ({ ...state, films })),
);

/** What the server has once it has confirmed some patches; not known where they do not fit, which it would not have confirmed. */
function advance(base: ProjectDocument | null, patches: readonly DocumentPatch[]): ProjectDocument | null {
  try {
    return base && applyDocumentPatches(base, patches);
  } catch {
    return null;
  }
}

function step(state: StudioState, turn: typeof undo): StudioState {
  if (!state.document) return state;
  const { document, history, applied } = turn(state.document, state.history);
  if (!applied) return state;
  return keepInside({ ...state, document, history, unsaved: [...state.unsaved, ...applied.patches], saved: 'waiting' });
}

/** After any change: no selection of things that are gone, a shot that exists, a frame inside it. */
function keepInside(state: StudioState): StudioState {
  const { document } = state;
  if (!document) return state;
  const shot = state.shot && document.shots[state.shot] ? state.shot : (shotsInOrder(document)[0]?.id ?? null);
  const length = shot ? document.shots[shot]!.length : 1;
  return {
    ...state,
    shot,
    frame: Math.min(length, Math.max(1, state.frame)),
    selection: state.selection.filter(({ kind, id }) => exists(document, state, kind, id)),
    isolated: state.isolated && document.nodes[state.isolated] ? state.isolated : null,
    lit: state.lit && document.nodes[state.lit] ? state.lit : null,
  };
}

function exists(document: ProjectDocument, state: StudioState, kind: string, id: string): boolean {
  switch (kind) {
    case 'node':
      return id in document.nodes;
    case 'finish':
      return id in document.finishes;
    case 'light':
      return id in document.lights;
    case 'camera':
      return id in document.cameras;
    case 'shot':
      return id in document.shots;
    case 'move':
      return Object.values(document.shots).some((shot) => id in shot.moves);
    case 'take':
      return state.takes.some((take) => take.id === id);
    default:
      return id in document.reel.clips;
  }
}
