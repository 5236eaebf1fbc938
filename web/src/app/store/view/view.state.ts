import type { Desk } from '../../desks/registry';

/** What the picture shows: the sketch alone, the sketch until nothing moves and then the traced picture, that at once, or a take. */
export type Grade = 'sketch' | 'settle' | 'traced' | 'take';

/** What the picture is held against: another grade, another take, or a picture that was kept. */
export type Against = Grade | `take:${string}` | 'kept';
/** How two pictures are compared: with an edge between them, beside each other, as their difference, or one after the other. */
export type CompareWay = 'edge' | 'beside' | 'difference' | 'blink';

export type SelectionKind =
  'node' | 'finish' | 'light' | 'camera' | 'shot' | 'move' | 'take' | 'clip' | 'title' | 'sound';

export interface Selected {
  kind: SelectionKind;
  id: string;
}

/** A key on the time strip: its track and its frame. */
export interface KeyMark {
  path: string;
  frame: number;
}

/** Part of the film's frame, 0 to 1 from the top left. */
export interface Region {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** What can be changed without editing the document. Ids may be of what is gone: selectors leave that out. */
export interface ViewState {
  project: string | null;
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
  /** What the present grade is compared with, how, and how far from the left the edge stands, 0 to 1; null shows one alone. */
  wipe: { against: Against; at: number; way: CompareWay } | null;
  /** What is traced and rendered alone. */
  region: Region | null;
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
  shownTake: string | null;
  /** The playhead of the film that is put together, from 1. */
  reelFrame: number;
  /** On the reel's desk the picture shows that film. */
  reelSeen: boolean;
}

export const plainView: ViewState = {
  project: null,
  desk: 'model',
  selection: [],
  keys: [],
  shot: null,
  frame: 1,
  playing: false,
  recording: false,
  thisShotOnly: false,
  grade: 'settle',
  wipe: null,
  region: null,
  throughCamera: true,
  isolated: null,
  lit: null,
  apart: 0,
  sharpness: false,
  uncleaned: false,
  shownTake: null,
  reelFrame: 1,
  reelSeen: true,
};
