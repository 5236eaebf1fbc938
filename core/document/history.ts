import { applyDocumentPatches, type DocumentPatch, type Edit } from './edits';
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

/** The document with patches applied; null where what they belong to is gone. */
function applied(document: ProjectDocument, patches: Edit['patches']): ProjectDocument | null {
  try {
    return applyDocumentPatches(document, patches);
  } catch {
    return null;
  }
}

/** The history without the steps that some patches belong to. */
export function without(history: History, patches: readonly DocumentPatch[]): History {
  const gone = new Set(patches);
  const stays = (step: Edit) => !step.patches.some((patch) => gone.has(patch));
  return { done: history.done.filter(stays), undone: history.undone.filter(stays) };
}

/** The newest steps of a history, with so many patches at the most. */
export function newestSteps({ done, undone }: History, most: number): History {
  let left = most;
  const newest = (steps: readonly Edit[]) => {
    let from = steps.length;
    while (from > 0 && left >= steps[from - 1]!.patches.length) left -= steps[--from]!.patches.length;
    return steps.slice(from);
  };
  return { undone: newest(undone), done: newest(done) };
}

/** One step back; steps that belong to what is gone are left out. `applied` is the edit that was carried out on the document (the step turned round), null if there was none. */
export function undo(
  document: ProjectDocument,
  history: History,
): { document: ProjectDocument; history: History; applied: Edit | null } {
  const step = history.done.at(-1);
  if (!step) return { document, history, applied: null };
  const before = applied(document, step.inverse);
  if (!before) return undo(document, { ...history, done: history.done.slice(0, -1) });
  return {
    document: before,
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
  const after = applied(document, step.patches);
  if (!after) return redo(document, { ...history, undone: history.undone.slice(0, -1) });
  return {
    document: after,
    history: { done: [...history.done, step], undone: history.undone.slice(0, -1) },
    applied: step,
  };
}
