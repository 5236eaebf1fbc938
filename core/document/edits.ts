import {
  applyPatches,
  current,
  type Draft,
  enablePatches,
  freeze,
  isDraft,
  produce,
  produceWithPatches,
  type Patch,
} from 'immer';
import * as z from 'zod';
import { UserProblem } from './problem';
import type { ProjectDocument } from './schema';

enablePatches();

/** One change of the document with its inverse. Everything that remembers or sends changes sends these patches. */
export interface Edit {
  label: string;
  patches: Patch[];
  inverse: Patch[];
  /** Edits in a row with the same gesture (one drag) become one step of undo. */
  gesture?: string;
}

export const patchSchema = z.object({
  op: z.enum(['add', 'remove', 'replace']),
  path: z.array(z.union([z.string().max(200), z.number().int()])).max(12),
  value: z.unknown().optional(),
});

export type DocumentPatch = Patch;

/** Runs `recipe` on a draft of the document. Returns the new document and the edit that leads to it; no edit if nothing changed. */
export function makeEdit(
  document: ProjectDocument,
  label: string,
  recipe: (draft: ProjectDocument) => void,
  gesture?: string,
): { document: ProjectDocument; edit: Edit | null } {
  const [next, patches, inverse] = produceWithPatches(document, (draft) => {
    recipe(draft as ProjectDocument);
  });
  if (patches.length === 0) return { document, edit: null };
  return { document: next, edit: { label, patches, inverse, ...(gesture ? { gesture } : {}) } };
}

/** A deep copy of something in a document, inside an edit too. */
export const copyOf = <T>(value: T): T => structuredClone(isDraft(value) ? (current(value as Draft<T>) as T) : value);

const UNSAFE = new Set(['__proto__', 'constructor', 'prototype']);

/**
 * Whether a patch leads somewhere. A list must not be asked for a place far beyond its end, nor for a length of its own: a few bytes
 * would make it as long as memory reaches.
 */
function fits(root: unknown, { op, path, value }: Patch): boolean {
  let at = root;
  for (const [k, step] of path.entries()) {
    const last = k === path.length - 1;
    if (typeof at !== 'object' || at === null) return false;
    if (Array.isArray(at)) {
      if (step === 'length') return last && op === 'replace' && isIndex(value, at.length);
      if (!isIndex(step, last && op === 'add' ? at.length : at.length - 1)) return false;
    } else if (!(last && op === 'add') && !Object.hasOwn(at, step)) return last && op === 'replace';
    at = (at as Record<string | number, unknown>)[step];
  }
  return true;
}

const isIndex = (value: unknown, most: number): boolean =>
  typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= most;

/**
 * Applies patches made on this or an earlier state.
 * @throws UserProblem `patch-does-not-fit` where a patch points at something that is no longer there.
 */
export function applyDocumentPatches(document: ProjectDocument, patches: readonly Patch[]): ProjectDocument {
  if (patches.some((patch) => patch.path.some((step) => UNSAFE.has(String(step))))) {
    throw new UserProblem('patch-does-not-fit', 'The change names a property that no project has. It was not saved.');
  }
  try {
    return freeze(
      patches.some(({ path }) => path.length === 0)
        ? applyPatches(document, patches as Patch[])
        : produce(document, (draft) => {
            for (const patch of patches) {
              if (!fits(draft, patch)) throw new Error('does not fit');
              applyPatches(draft, [patch as Patch]);
            }
          }),
      true,
    );
  } catch {
    throw new UserProblem(
      'patch-does-not-fit',
      'The change belongs to something that has since been removed, so it could not be applied.',
      409,
    );
  }
}
