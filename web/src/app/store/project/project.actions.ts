import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { DocumentPatch, Edit, History, ProjectDocument } from '@zippy/core/document';
import type { OpenProject } from '@zippy/core/wire';
import type { Conflict } from './project.feature';

/** What is the server's and what is this window's own of a project. */
interface Meeting {
  document: ProjectDocument;
  base: ProjectDocument;
  revision: number;
  unsaved: DocumentPatch[];
}

export const ProjectActions = createActionGroup({
  source: 'Project',
  events: {
    Opened: props<{ project: OpenProject }>(),
    Closed: emptyProps(),
    Edited: props<{ document: ProjectDocument; edit: Edit }>(),
    Undone: emptyProps(),
    Redone: emptyProps(),
    'Save began': emptyProps(),
    'Save confirmed': props<{ revision: number; count: number }>(),
    'Server lost': emptyProps(),
    'Conflict met': props<{ conflict: Conflict }>(),
    'Conflict merged': props<Meeting>(),
    /** The server refused some patches: they are taken back alone. */
    'Refused set aside': props<Meeting & { refused: readonly DocumentPatch[] }>(),
    /** What could be undone before the page was left. */
    'History taken up': props<{ history: History }>(),
  },
});
