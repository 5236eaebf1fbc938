import { createFeature, createReducer, on } from '@ngrx/store';
import {
  applyDocumentPatches,
  emptyHistory,
  redo,
  remember,
  undo,
  without,
  type DocumentPatch,
  type History,
  type ProjectDocument,
} from '@zippy/core/document';
import { ProjectActions } from './project.actions';

type SavedState = 'saved' | 'waiting' | 'offline' | 'conflict';

/** The newer state another window saved. */
export interface Conflict {
  revision: number;
  document: ProjectDocument;
}

/** The open project, and how far the server has it. */
export interface ProjectState {
  id: string | null;
  revision: number;
  document: ProjectDocument | null;
  /** The document as the server has it, at `revision`. */
  base: ProjectDocument | null;
  history: History;
  /** Patches that the server has not confirmed yet. */
  unsaved: DocumentPatch[];
  saved: SavedState;
  conflict: Conflict | null;
}

const none: ProjectState = {
  id: null,
  revision: 0,
  document: null,
  base: null,
  history: emptyHistory,
  unsaved: [],
  saved: 'saved',
  conflict: null,
};

/** Of edits that the server does not have yet, or of none. */
const waiting = (unsaved: DocumentPatch[]): SavedState => (unsaved.length > 0 ? 'waiting' : 'saved');

export const projectFeature = createFeature({
  name: 'project',
  reducer: createReducer(
    none,
    on(ProjectActions.opened, (_, { project: { id, revision, document } }): ProjectState => ({
      ...none,
      id,
      revision,
      document,
      base: document,
    })),
    on(ProjectActions.closed, () => none),
    on(ProjectActions.edited, (state, { document, edit }): ProjectState => ({
      ...state,
      document,
      history: remember(state.history, edit),
      unsaved: [...state.unsaved, ...edit.patches],
      saved: state.saved === 'saved' ? 'waiting' : state.saved,
    })),
    on(ProjectActions.undone, (state) => step(state, undo)),
    on(ProjectActions.redone, (state) => step(state, redo)),
    on(ProjectActions.saveConfirmed, (state, { revision, count }): ProjectState => {
      const unsaved = state.unsaved.slice(count);
      const base = unsaved.length === 0 ? state.document : advance(state.base, state.unsaved.slice(0, count));
      return { ...state, revision, base, unsaved, saved: waiting(unsaved) };
    }),
    on(ProjectActions.serverLost, (state): ProjectState => ({ ...state, saved: 'offline' })),
    on(ProjectActions.saveBegan, (state): ProjectState => ({ ...state, saved: 'waiting' })),
    on(ProjectActions.conflictMet, (state, { conflict }): ProjectState => ({ ...state, saved: 'conflict', conflict })),
    on(ProjectActions.conflictMerged, (state, { document, base, revision, unsaved }): ProjectState => ({
      ...state,
      ...{ document, base, revision, unsaved },
      saved: waiting(unsaved),
      conflict: null,
      history: emptyHistory,
    })),
    on(ProjectActions.refusedSetAside, (state, { document, base, revision, unsaved, refused }): ProjectState => ({
      ...state,
      ...{ document, base, revision, unsaved },
      saved: waiting(unsaved),
      history: without(state.history, refused),
    })),
    on(ProjectActions.historyTakenUp, (state, { history }): ProjectState => ({ ...state, history })),
  ),
});

/** What the server has once it has confirmed some patches; not known where they do not fit, which it would not have confirmed. */
function advance(base: ProjectDocument | null, patches: readonly DocumentPatch[]): ProjectDocument | null {
  try {
    return base && applyDocumentPatches(base, patches);
  } catch {
    return null;
  }
}

function step(state: ProjectState, turn: typeof undo): ProjectState {
  if (!state.document) return state;
  const { document, history, applied } = turn(state.document, state.history);
  if (!applied) return state;
  return { ...state, document, history, unsaved: [...state.unsaved, ...applied.patches], saved: 'waiting' };
}
