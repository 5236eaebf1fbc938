import { newFinish, sameFinish, type Finish, type ProjectDocument } from '@zippy/core/document';

/** As what a finish is dragged from the shelf. */
export const FINISH_DRAG = 'application/x-zippy-finish';

/** A finish of the shelf as a new entry of a document. */
export const fromShelf = (shelf: Partial<Finish>): Finish => newFinish(structuredClone(shelf));

/**
 * Brings a finish of the shelf into a document, once. One of the same name that was edited since is another finish: what was asked for is
 * what is taken. @returns its id there
 */
export function finishIn(draft: ProjectDocument, shelf: Partial<Finish>): string {
  const fresh = fromShelf(shelf);
  const same = Object.values(draft.finishes).find((each) => each.name === fresh.name && sameFinish(each, fresh));
  if (!same) draft.finishes[fresh.id] = fresh;
  return (same ?? fresh).id;
}
