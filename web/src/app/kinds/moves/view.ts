import type { Move, MoveKind, ProjectDocument } from '@zippy/core/document';
import type { Occasion } from '@zippy/core/motion';
import type { FieldSpec } from '../field';

/** What a kind of move makes its fields with. */
export interface MoveFields {
  document: ProjectDocument;
  /** Path of the move. */
  at: string;
  /** The field of one of its own properties. */
  own(key: string, label: string): FieldSpec;
  /** Sets what is more than one property. */
  write(change: (move: Move, value: unknown, draft: ProjectDocument) => void): FieldSpec['write'];
}

/** Under which heading of the desk a move is offered. */
export type MoveFamily = 'turn' | 'place' | 'camera' | 'light';

/** One way to begin a move of a kind: a button of the desk. */
export interface MoveStart<M extends Move = Move> {
  title: string;
  does: string;
  /** Everyday words for it. */
  words: string;
  /** A small drawing of what it does, as a path in a box of 34 by 16. */
  drawing: string;
  /** Numbers that differ from those of the kind. */
  numbers?(move: M, about: Occasion): Partial<M>;
}

/** All that the page knows of a kind of move. */
export interface MoveView<M extends Move = Move> {
  family: MoveFamily;
  /** What has to be selected for it. */
  needs: string;
  starts: readonly MoveStart<M>[];
  fields(make: MoveFields, move: M): FieldSpec[];
  /** What its block on the strip says of it. */
  says(move: M): string;
}

export type MoveOf<K extends MoveKind> = Extract<Move, { kind: K }>;
