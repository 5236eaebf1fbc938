import type { Asset, ProjectDocument } from '@zippy/core/document';
import type { ShapeSignature } from '@zippy/core/geometry';
import type { ModelSummary, ModelTree } from '@zippy/core/intake';
import type { RenderSettings } from '@zippy/core/trace';

/** What the server answers; see server/src. */
export interface ProjectEntry {
  id: string;
  name: string;
  revision: number;
  updatedAt: number;
}

export interface OpenProject {
  id: string;
  revision: number;
  document: ProjectDocument;
}

export interface TakeView {
  id: string;
  number: number;
  shot: string;
  shotName: string;
  state: 'waiting' | 'rendering' | 'stopped' | 'done' | 'failed';
  first: number;
  last: number;
  settings: RenderSettings;
  done: number[];
  /** Frames that have been named so far, and different pictures among them. */
  named: number;
  distinct: number;
  failure: string;
  createdAt: number;
}

export interface FilmView {
  id: string;
  name: string;
  format: 'mp4' | 'gif' | 'png-zip';
  state: 'encoding' | 'stopped' | 'done' | 'failed';
  frames: number;
  encoded: number;
  bytes: number;
  failure: string;
  createdAt: number;
}

export interface VersionEntry {
  id: string;
  name: string;
  revision: number;
  createdAt: number;
}

export interface ImportJob {
  id: string;
  state: 'reading' | 'read' | 'failed' | 'stopped';
  message: string;
  summary: ModelSummary | null;
}

/** A file on the server by its content, with the name it came under. */
export interface StoredFile {
  name: string;
  hash: string;
}

export interface RebuiltModel {
  hash: string;
  found: Asset['found'];
}

/** Signatures of the meshes of two models, in their order. */
export interface Comparison {
  before: ShapeSignature[];
  after: ShapeSignature[];
}

export interface AcceptedModel {
  hash: string;
  sourceHash: string;
  companions: StoredFile[];
  found: Asset['found'];
  tree: ModelTree;
  /** Null where one could not be kept. */
  pictures: ({ name: string; hash: string } | null)[];
}

export type ServerEvent =
  | { type: 'project'; project: string; revision: number; window: string }
  | { type: 'takes'; project: string }
  /** Frames of a take that now show a picture that was rendered, and how many of its frames have been named. */
  | { type: 'frame'; project: string; take: string; frames: number[]; named: number }
  | { type: 'import'; import: string; state: string; message: string }
  | { type: 'film'; project: string; film: string; state: FilmView['state']; encoded: number; frames: number };
