import {
  applyDocumentPatches,
  checkDocument,
  openDocument,
  UserProblem,
  type DocumentPatch,
  type ProjectDocument,
} from '@zippy/core/document';

/** A document as it is stored, with its name beside it. */
export interface DocumentText {
  text: string;
  name: string;
  /** What was asked for of it, so that nobody has to read the whole of it again. */
  part?: Pick<ProjectDocument, DocumentPart>;
}

export type DocumentPart =
  | 'assets'
  | 'finishes'
  | 'cameras'
  | 'colourways'
  | 'shots'
  | 'frameRate'
  | 'picture'
  | 'reel'
  | 'look'
  | 'takeLooks'
  | 'settings'
  | 'lights';

export type DocumentTask =
  | { kind: 'open'; text: string; part?: readonly DocumentPart[] }
  | { kind: 'create'; text: string; name: string }
  | { kind: 'edit'; text: string; patches: string };

/** Work on whole documents, which grows with them. */
export interface DocumentWork {
  /** @throws UserProblem what is wrong with the document, or with what is done to it */
  run(task: DocumentTask): Promise<DocumentText>;
}

/** Brings a document up to date, makes one from foreign data, or applies patches to one; always checked as a whole. */
export function workOnDocument(task: DocumentTask): DocumentText {
  const before = openDocument(parse(task.text));
  switch (task.kind) {
    case 'open':
      return { ...textOf(before), ...(task.part ? { part: pick(before, task.part) } : {}) };
    case 'create':
      return textOf(checkDocument({ ...before, name: task.name }));
    case 'edit':
      return textOf(checkDocument(applyDocumentPatches(before, parse(task.patches) as DocumentPatch[])));
  }
}

const pick = (document: ProjectDocument, names: readonly DocumentPart[]) =>
  Object.fromEntries(names.map((name) => [name, document[name]])) as Pick<ProjectDocument, DocumentPart>;

const textOf = (document: { name: string }): DocumentText => ({
  text: JSON.stringify(document),
  name: document.name,
});

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new UserProblem('document-broken', 'This is not a Zippy Reel project: it is no valid JSON.', 422);
  }
}

/** In this very thread, for small documents and tests. */
export const directly: DocumentWork = { run: async (task) => workOnDocument(task) };
