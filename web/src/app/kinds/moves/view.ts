import type { Move, MoveKind, ProjectDocument } from '@zippy/core/document';
import type { FieldSpec } from '../field';

/** What a kind of move makes its fields with. */
interface MoveFields {
  document: ProjectDocument;
  /** Path of the move. */
  at: string;
  /** The field of one of its own properties. */
  own(key: string, label: string): FieldSpec;
  /** Sets what is more than one property. */
  write(change: (move: Move, value: unknown, draft: ProjectDocument) => void): FieldSpec['write'];
}

/** All that the page knows of a kind of move. */
export interface MoveView<M extends Move = Move> {
  /** What it does, and what has to be selected for it. */
  does: string;
  needs: string;
  /** Everyday words for it. */
  words: string;
  /** A small drawing of what it does, as a path in a box of 34 by 16. */
  drawing: string;
  fields(make: MoveFields, move: M): FieldSpec[];
  /** What its block on the strip says of it. */
  says(move: M): string;
}

export type MoveOf<K extends MoveKind> = Extract<Move, { kind: K }>;
