import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { DocumentPatch, Edit, History, ProjectDocument } from '@zippy/core/document';
import type { Film, OpenProject, Take } from '@zippy/core/wire';
import type { Conflict, StudioState } from './studio.state';

export const StudioActions = createActionGroup({
  source: 'Studio',
  events: {
    'Project opened': props<{ project: OpenProject }>(),
    'Project closed': emptyProps(),
    Edited: props<{ document: ProjectDocument; edit: Edit }>(),
    Undone: emptyProps(),
    Redone: emptyProps(),
    'Save began': emptyProps(),
    'Save confirmed': props<{ revision: number; count: number }>(),
    'Server lost': emptyProps(),
    'Conflict met': props<{ conflict: Conflict }>(),
    'Conflict merged': props<{
      document: ProjectDocument;
      base: ProjectDocument;
      revision: number;
      unsaved: DocumentPatch[];
    }>(),
    /** The server refused some patches: they are taken back alone. */
    'Refused set aside': props<{
      document: ProjectDocument;
      base: ProjectDocument;
      revision: number;
      unsaved: DocumentPatch[];
      refused: readonly DocumentPatch[];
    }>(),
    /** What could be undone before the page was left. */
    'History taken up': props<{ history: History }>(),
    'View changed': props<{ view: Partial<ViewState> }>(),
    'Takes arrived': props<{ takes: Take[] }>(),
    'Frames rendered': props<{ take: string; frames: number[]; named: number }>(),
    'Films arrived': props<{ films: Film[] }>(),
  },
});

/** What can be changed without editing the document. */
export type ViewState = Pick<
  StudioState,
  | 'desk'
  | 'selection'
  | 'keys'
  | 'shot'
  | 'frame'
  | 'playing'
  | 'recording'
  | 'thisShotOnly'
  | 'grade'
  | 'wipe'
  | 'region'
  | 'throughCamera'
  | 'isolated'
  | 'lit'
  | 'apart'
  | 'sharpness'
  | 'uncleaned'
  | 'shownTake'
>;
