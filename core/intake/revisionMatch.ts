import { nearestPairs, SAME_SHAPE, sameShape, type ShapeSignature, type Transform, type Vector } from '../geometry';

/** A part of a model's file, before or after: what it is known by. */
export interface RevisionPart {
  /** Names from the root of the file down to the part. */
  path: string;
  name: string;
  mesh: number;
  shape: ShapeSignature;
  /** Where the file has it; null where that is not known any more. */
  place: Transform | null;
}

/** Which part after is which part before. */
export interface RevisionMatch {
  /** Number of the part before; null for what is new. */
  before: number | null;
  /** Number of the part after; null for what is gone. */
  after: number | null;
  /** What they were known by. */
  by: 'path' | 'name' | 'shape' | 'hand' | null;
  /** Of what is gone: whether it stays as it was. Of what is new: whether it comes in. */
  keep: boolean;
}

export type RevisionState = 'same' | 'changed' | 'moved' | 'new' | 'gone';

/**
 * Finds which part is which: by the same path in the file, then by the same name, then by the same shape, whatever its name.
 * Where several could be meant, those of one shape go together first, and of these those that are nearest.
 */
export function matchParts(before: readonly RevisionPart[], after: readonly RevisionPart[]): RevisionMatch[] {
  const shapes = shapeNumbers([...before, ...after].map(({ shape }) => shape));
  const matches: RevisionMatch[] = [];
  const left = new Set(before.keys());
  const open = new Set(after.keys());
  const pair = (by: 'path' | 'name' | 'shape', keyOf: (part: RevisionPart, shape: number) => string) => {
    const groups = new Map<string, { befores: number[]; afters: number[] }>();
    const groupOf = (key: string) => {
      const group = groups.get(key) ?? { befores: [], afters: [] };
      groups.set(key, group);
      return group;
    };
    for (const a of left) groupOf(keyOf(before[a]!, shapes[a]!)).befores.push(a);
    for (const b of open) groupOf(keyOf(after[b]!, shapes[before.length + b]!)).afters.push(b);
    for (const { befores, afters } of groups.values()) {
      if (befores.length === 0 || afters.length === 0) continue;
      const places = (parts: readonly RevisionPart[], of: number[]) => of.map((at) => placeOf(parts[at]!));
      for (const [a, b] of nearestPairs(places(before, befores), places(after, afters))) {
        left.delete(befores[a]!);
        open.delete(afters[b]!);
        matches.push({ before: befores[a]!, after: afters[b]!, by, keep: true });
      }
    }
  };
  pair('path', ({ path }, shape) => `${shape} ${path}`);
  pair('path', ({ path }) => path);
  pair('name', ({ name }, shape) => `${shape} ${name}`);
  pair('name', ({ name }) => name);
  // A changed shape under another name could be anything; the same shape is the same part renamed.
  pair('shape', (_, shape) => String(shape));
  matches.sort((a, b) => a.before! - b.before!);
  for (const a of left) matches.push({ before: a, after: null, by: null, keep: false });
  for (const b of open) matches.push({ before: null, after: b, by: null, keep: true });
  return matches;
}

/** Numbers of shapes; those that are the same have the same. */
function shapeNumbers(shapes: readonly ShapeSignature[]): number[] {
  const numbers: number[] = [];
  // The first of each shape, the smallest surface first: what is the same has nearly the same area.
  const known: number[] = [];
  for (const at of [...shapes.keys()].sort((a, b) => shapes[a]!.area - shapes[b]!.area)) {
    const shape = shapes[at]!;
    let same = -1;
    for (let k = known.length - 1; k >= 0 && same < 0; k--) {
      const other = shapes[known[k]!]!;
      if (other.area < shape.area * (1 - 2 * SAME_SHAPE)) break;
      if (sameShape(other, shape)) same = known[k]!;
    }
    numbers[at] = same < 0 ? at : same;
    if (same < 0) known.push(at);
  }
  return numbers;
}

const placeOf = ({ place }: RevisionPart): Vector =>
  place?.every(Number.isFinite) ? [place[3], place[7], place[11]] : [0, 0, 0];

/** What became of a part. */
export function stateOfMatch(
  { before, after }: RevisionMatch,
  all: { before: readonly RevisionPart[]; after: readonly RevisionPart[] },
): RevisionState {
  if (before === null) return 'new';
  if (after === null) return 'gone';
  const [a, b] = [all.before[before]!, all.after[after]!];
  if (!sameShape(a.shape, b.shape)) return 'changed';
  return a.place && !alikePlaces(a.place, b.place!) ? 'moved' : 'same';
}

export const alikePlaces = (a: Transform, b: Transform): boolean =>
  a.every((v, k) => Math.abs(v - b[k]!) < (k % 4 === 3 ? 1e-3 : 1e-6));

/** Says by hand which part a part before is; what had it before is gone or new then. */
export function rematch(matches: readonly RevisionMatch[], before: number, after: number | null): RevisionMatch[] {
  const freed = matches.find((match) => match.before === before)?.after ?? null;
  const others = matches.flatMap((match): RevisionMatch[] => {
    if (match.before === before) return [];
    if (after === null || match.after !== after) return [match];
    // Whoever had it is gone now, and what was new with it is new no more.
    return match.before === null ? [] : [{ before: match.before, after: null, by: null, keep: false }];
  });
  const own: RevisionMatch = { before, after, by: after === null ? null : 'hand', keep: after !== null };
  const lost: RevisionMatch[] =
    freed !== null && freed !== after ? [{ before: null, after: freed, by: null, keep: true }] : [];
  return [...others, own, ...lost].sort((a, b) => (a.before ?? Infinity) - (b.before ?? Infinity));
}
