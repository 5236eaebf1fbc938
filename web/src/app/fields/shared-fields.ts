import type { ProjectDocument, SceneNode } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import type { Selected } from '../store/view/view.state';
import { fieldGroups } from './field-specs';
import type { FieldGroup, FieldSpec } from '../kinds/field';

/**
 * Fields of what was selected last that all else that is selected has too, each with those of the others: what is changed in one is
 * changed in all, as one step.
 */
export function sharedGroups(
  document: ProjectDocument,
  selection: readonly Selected[],
  takes: readonly Take[] = [],
): FieldGroup[] {
  const last = selection.at(-1);
  if (!last) return [];
  const groups = fieldGroups(document, last, takes);
  const others = selection.slice(0, -1);
  if (others.length === 0) return groups;
  const find = finders(document, last, others);
  return groups
    .map(({ title, fields }) => ({
      title,
      fields: fields.flatMap((field) => {
        const also: FieldSpec[] = [];
        for (const same of find(field)) {
          if (!same) return [];
          also.push(same);
        }
        return [{ ...field, also }];
      }),
    }))
    .filter(({ fields }) => fields.length > 0);
}

/** Finds, one after the other, the fields of other things that stand for the same property as one of the last; null where there is none. */
function finders(
  document: ProjectDocument,
  last: Selected,
  others: readonly Selected[],
): (field: FieldSpec) => Generator<FieldSpec | null> {
  const own = (path: string, id: string) => path.slice(path.indexOf(id) + id.length);
  // There may be thousands of parts, and none of their fields writes in a way of its own.
  const found = others.map((other) => {
    if (other.kind === 'node' && last.kind === 'node') return null;
    const fields = fieldGroups(document, other).flatMap((group) => group.fields);
    return new Map(fields.map((field) => [`${field.kind} ${own(field.path, other.id)}`, field]));
  });
  return function* (field) {
    const property = own(field.path, last.id);
    const steps = property.split('/').slice(1);
    for (const [k, byProperty] of found.entries()) {
      const { id } = others[k]!;
      if (byProperty) yield byProperty.get(`${field.kind} ${property}`) ?? null;
      else yield isThere(document.nodes[id], steps) ? { ...field, path: `nodes/${id}${property}` } : null;
    }
  };
}

/** Whether a property of a node is there; the finish of what has no mesh is not. */
function isThere(node: SceneNode | undefined, steps: readonly string[]): boolean {
  if (!node || (!node.mesh && (steps[0] === 'finish' || steps[0] === 'glow'))) return false;
  let at: unknown = node;
  for (const step of steps) at = (at as Record<string, unknown> | null | undefined)?.[step];
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
