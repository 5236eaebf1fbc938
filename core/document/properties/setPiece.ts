import { choice, length, still, type Table } from './property';

const size = () => still(length(100, { min: 0.01, max: 1e6 }));
const bevel = () => still(length(0, { min: 0, max: 1e6 }));

/** Simple bodies to build a set of; each stands on the floor, over its origin. See geometry/setPieces.ts. */
export const SET_PIECES = {
  /** A sheet that lies flat. */
  plane: { width: size(), depth: size() },
  box: { width: size(), height: size(), depth: size(), bevel: bevel() },
  cylinder: { radius: size(), height: size(), bevel: bevel() },
  sphere: { radius: size() },
  /** A round sheet that lies flat, with a hole where its inner radius is above zero. */
  disc: { radius: size(), hole: bevel() },
  tube: { radius: size(), wall: size(), height: size() },
  /** Four bars round an opening, upright; of rectangular section, or of round section as wide as `bar`. */
  frame: {
    width: size(),
    height: size(),
    bar: size(),
    depth: size(),
    section: choice(['rectangular', 'round'], 'rectangular'),
  },
  /** A floor that curves up into a wall. */
  sweep: { width: size(), depth: size(), height: size(), radius: size() },
} satisfies Record<string, Table>;
