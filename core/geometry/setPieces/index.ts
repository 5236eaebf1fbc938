import * as z from 'zod';
import type { TriangleMesh } from '../sweep';
import { box } from './box';
import { cylinder } from './cylinder';
import { disc } from './disc';
import { frame } from './frame';
import type { Cut } from './kind';
import { opening } from './opening';
import { plane } from './plane';
import { sphere } from './sphere';
import { sweep } from './sweep';
import { tube } from './tube';

/** Simple bodies to build a set of; each stands on the floor, over its origin. */
export const SET_PIECES = { plane, box, cylinder, sphere, disc, tube, frame, sweep, opening };

export type SetPieceKind = keyof typeof SET_PIECES;
type PieceSchema = (typeof SET_PIECES)[SetPieceKind]['schema'];
export const setPieceSchema = z.discriminatedUnion(
  'kind',
  Object.values(SET_PIECES).map(({ schema }) => schema) as unknown as [PieceSchema, ...PieceSchema[]],
);
export type SetPiece = z.infer<typeof setPieceSchema>;

/** The triangles of a set piece with normals, picture coordinates and faces; it stands on y = 0, over its origin. */
export const pieceMesh = (piece: SetPiece): TriangleMesh =>
  (SET_PIECES[piece.kind] as { mesh(piece: SetPiece): TriangleMesh }).mesh(piece);

/** The body that a set piece takes out of the floor and of parts of the plate; null of most. */
export const cutOf = (piece: SetPiece): Cut | null =>
  (SET_PIECES[piece.kind] as { cut?(piece: SetPiece): Cut }).cut?.(piece) ?? null;

/** Raised whenever the triangles of its kind change. */
export const pieceRevision = ({ kind }: SetPiece): number => (SET_PIECES[kind] as { revision?: number }).revision ?? 1;

/** A set piece of dimensions that fit a product of a size, in millimetres. */
export function newSetPiece(kind: SetPieceKind, size: number): SetPiece {
  const part = (of: number) => Math.max(0.1, Number((size * of).toPrecision(2)));
  return { kind, ...SET_PIECES[kind].proportions(part) } as SetPiece;
}
