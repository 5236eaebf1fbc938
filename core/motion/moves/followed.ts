import * as z from 'zod';
import { idSchema } from '../../document/properties/ids';
import { place } from '../../document/properties/property';

type Followed = { node: string; point: [number, number, number] } | null;

/** A point in the space of a node that something goes by; null stands for what it has itself. */
export const FOLLOWED = {
  schema: z.object({ node: idSchema, point: place([0, 0, 0]).schema }).nullable(),
  default: null as Followed,
};

/** Gives both ends of a pull other nodes. */
export function renameFollowed(move: { from: Followed; to: Followed }, id: (of: string) => string): void {
  if (move.from) move.from = { ...move.from, node: id(move.from.node) };
  if (move.to) move.to = { ...move.to, node: id(move.to.node) };
}
