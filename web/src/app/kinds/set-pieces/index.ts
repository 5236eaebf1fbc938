import type { SetPiece } from '@zippy/core/document';
import { box } from './box';
import { cylinder } from './cylinder';
import { disc } from './disc';
import { frame } from './frame';
import { opening } from './opening';
import { plane } from './plane';
import { sphere } from './sphere';
import { sweep } from './sweep';
import { tube } from './tube';
import type { PieceOf, PieceView } from './view';

/** How each kind of set piece is shown. */
export const PIECE_VIEWS: { [K in SetPiece['kind']]: PieceView<PieceOf<K>> } = {
  plane,
  box,
  cylinder,
  sphere,
  disc,
  tube,
  frame,
  sweep,
  opening,
};

/** How a set piece is shown; it takes pieces of its own kind only. */
export const pieceView = ({ kind }: { kind: SetPiece['kind'] }): PieceView => PIECE_VIEWS[kind] as unknown as PieceView;
