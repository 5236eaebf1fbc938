import type { SetPiece } from '@zippy/core/document';
import type { FieldSpec } from '../field';

/** All that the page knows of a kind of set piece. */
export interface PieceView<P extends SetPiece = SetPiece> {
  /** Everyday words for it. */
  words: string;
  /** Put under the product instead of beside it. */
  under?: boolean;
  /** Fields of its dimensions. @param own the field of one of them */
  fields(own: (key: string, label: string) => FieldSpec, piece: P): FieldSpec[];
}

export type PieceOf<K extends SetPiece['kind']> = Extract<SetPiece, { kind: K }>;
