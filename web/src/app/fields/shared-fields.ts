import type { ProjectDocument } from '@zippy/core/document';
import type { Selected } from '../store/view/view.state';
import { fieldGroups } from './field-specs';
import type { FieldGroup, FieldSpec } from '../kinds/field';

/**
 * Fields of what was selected last that all else that is selected has too, each with those of the others: what is changed in one is
 * changed in all, as one step.
 */
export function sharedGroups(document: ProjectDocument, selection: readonly Selected[]): FieldGroup[] {
  const last = selection.at(-1);
  if (!last) return [];
  const groups = fieldGroups(document, last);
  const others = selection.slice(0, -1);
  if (others.length === 0) return groups;
  const findIn = others.map((other) => finder(document, last, other));
  return groups
    .map(({ title, fields }) => ({
      title,
      fields: fields.flatMap((field) => {
        const also = findIn.map((find) => find(field));
        return also.every((each) => each !== null) ? [{ ...field, also }] : [];
      }),
    }))
    .filter(({ fields }) => fields.length > 0);
}

/** Finds the field of another thing that stands for the same property as one of the last. */
function finder(document: ProjectDocument, last: Selected, other: Selected): (field: FieldSpec) => FieldSpec | null {
  const own = (path: string, id: string) => path.slice(path.indexOf(id) + id.length);
  if (other.kind === 'node' && last.kind === 'node') {
    // There may be thousands of parts, and none of their fields writes in a way of its own.
    return (field) => {
      const path = `nodes/${other.id}${own(field.path, last.id)}`;
      return isThere(document, path) ? { ...field, path } : null;
    };
  }
  const fields = fieldGroups(document, other).flatMap((group) => group.fields);
  const byProperty = new Map(fields.map((field) => [`${field.kind} ${own(field.path, other.id)}`, field]));
  return (field) => byProperty.get(`${field.kind} ${own(field.path, last.id)}`) ?? null;
}

/** Whether a property is there; the finish of what has no mesh is not. */
function isThere(document: ProjectDocument, path: string): boolean {
  const [, id, name] = path.split('/') as [string, string, string];
  const node = document.nodes[id];
  if (!node || (['finish', 'glow'].includes(name) && !node.mesh)) return false;
  let at: unknown = document;
  for (const step of path.split('/')) at = (at as Record<string, unknown> | null | undefined)?.[step];
  return at !== undefined;
}

/** Of groups of fields those that are called by words: in their labels, or in the titles of their groups. */
export function fieldsCalled(groups: FieldGroup[], text: string): FieldGroup[] {
  const words = text.toLowerCase().split(/\s+/);
  const called = (name: string) => words.every((word) => name.toLowerCase().includes(word));
  return groups
    .map(({ title, fields }) => ({ title, fields: fields.filter(({ label }) => called(`${title} ${label}`)) }))
    .filter(({ fields }) => fields.length > 0);
}
