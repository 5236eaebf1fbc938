import { applyDocumentPatches, type Edit } from './edits';
import type { ProjectDocument } from './schema';

/** What can be undone and redone in one window. */
export interface History {
  done: readonly Edit[];
  undone: readonly Edit[];
}

export const emptyHistory: History = { done: [], undone: [] };

const MOST_STEPS = 1000;

/** Adds an edit; one that continues the gesture of the last step joins it. */
export function remember(history: History, edit: Edit): History {
  const last = history.done.at(-1);
  if (last?.gesture !== undefined && last.gesture === edit.gesture) {
    const joined: Edit = {
      ...last,
      patches: [...last.patches, ...edit.patches],
      inverse: [...edit.inverse, ...last.inverse],
    };
    return { done: [...history.done.slice(0, -1), joined], undone: [] };
  }
  return { done: [...history.done, edit].slice(-MOST_STEPS), undone: [] };
}

/** One step back. `applied` is the edit that was carried out on the document (the step turned round), null if there was none. */
export function undo(
  document: ProjectDocument,
  history: History,
): { document: ProjectDocument; history: History; applied: Edit | null } {
  const step = history.done.at(-1);
  if (!step) return { document, history, applied: null };
  return {
    document: applyDocumentPatches(document, step.inverse),
    history: { done: history.done.slice(0, -1), undone: [...history.undone, step] },
    applied: { label: step.label, patches: step.inverse, inverse: step.patches },
  };
}

/** One step forward again. */
export function redo(
  document: ProjectDocument,
  history: History,
): { document: ProjectDocument; history: History; applied: Edit | null } {
  const step = history.undone.at(-1);
  if (!step) return { document, history, applied: null };
  return {
    document: applyDocumentPatches(document, step.patches),
    history: { done: [...history.done, step], undone: history.undone.slice(0, -1) },
    applied: step,
  };
}
