import { emptyHistory, type DocumentPatch, type History, type ProjectDocument } from '@zippy/core/document';
import type { Desk } from '../desks/registry';
import type { Film, Take } from '@zippy/core/wire';

/** The picture's three grades: instant, refining, finished. */
export type Grade = 'sketch' | 'traced' | 'take';

export type SelectionKind = 'node' | 'finish' | 'light' | 'camera' | 'shot' | 'move' | 'take' | 'clip';

export interface Selected {
  kind: SelectionKind;
  id: string;
}

/** A key on the time strip: its track and its frame. */
export interface KeyMark {
  path: string;
  frame: number;
}

type SavedState = 'saved' | 'waiting' | 'offline' | 'conflict';

/** The newer state another window saved. */
export interface Conflict {
  revision: number;
  document: ProjectDocument;
}

export interface StudioState {
  project: string | null;
  revision: number;
  document: ProjectDocument | null;
  /** The document as the server has it, at `revision`. */
  base: ProjectDocument | null;
  history: History;
  /** Patches that the server has not confirmed yet. */
  unsaved: DocumentPatch[];
  saved: SavedState;
  conflict: Conflict | null;
  desk: Desk;
  selection: Selected[];
  keys: KeyMark[];
  shot: string | null;
  frame: number;
  playing: boolean;
  /** Changes set keys at the playhead. */
  recording: boolean;
  /** Changes count for the present shot only. */
  thisShotOnly: boolean;
  grade: Grade;
  /** What the present grade is wiped against, and how far from the left the edge stands, 0 to 1; null shows one alone. */
  wipe: { against: Grade; at: number } | null;
  /** Part of the film's frame that is traced and rendered alone, 0 to 1 from the top left. */
  region: { left: number; top: number; right: number; bottom: number } | null;
  /** The view looks through the shot's camera. */
  throughCamera: boolean;
  /** The node that is shown alone. */
  isolated: string | null;
  /** The part that is lit while all others are dimmed, in the sketch. */
  lit: string | null;
  /** How far parts are drawn apart in the sketch, as a part of their distance from the middle; the document stays as it is. */
  apart: number;
  /** What is out of focus is veiled in the sketch through the camera. */
  sharpness: boolean;
  /** Takes and the traced picture are shown without denoising and removal of specks. */
  uncleaned: boolean;
  takes: Take[];
  shownTake: string | null;
  films: Film[];
}

export const initialState: StudioState = {
  project: null,
  revision: 0,
  document: null,
  base: null,
  history: emptyHistory,
  unsaved: [],
  saved: 'saved',
  conflict: null,
  desk: 'model',
  selection: [],
  keys: [],
  shot: null,
  frame: 1,
  playing: false,
  recording: false,
  thisShotOnly: false,
  grade: 'sketch',
  wipe: null,
  region: null,
  throughCamera: true,
  isolated: null,
  lit: null,
  apart: 0,
  sharpness: false,
  uncleaned: false,
  takes: [],
  shownTake: null,
  films: [],
};
