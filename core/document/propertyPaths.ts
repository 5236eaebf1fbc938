import { propertyAt } from './properties';
import type { ProjectDocument } from './schema';
import type { Value } from './properties/value';

/** What kind of value a property holds, which decides how it travels between keys. */
export type PropertyKind = 'number' | 'boolean' | 'vector' | 'rotation' | 'choice';

/** The value at a property path such as `nodes/ID/position`, or undefined where there is none. */
export function readProperty(root: object, path: string): Value | undefined {
  let at: unknown = root;
  for (const step of path.split('/')) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, step)) return undefined;
    at = (at as Record<string, unknown>)[step];
  }
  if (typeof at === 'string') return isChoice(path, at) ? at : undefined;
  return isValue(at) ? at : undefined;
}

/** Sets an existing property; does nothing where the path leads nowhere or the value is of another kind. */
export function writeProperty(root: object, path: string, value: Value): void {
  const present = readProperty(root, path);
  if (present === undefined || valueKind(present) !== valueKind(value)) return;
  if (typeof value === 'string' && !isChoice(path, value)) return;
  const steps = path.split('/');
  let at = root as Record<string, unknown>;
  for (const step of steps.slice(0, -1)) at = at[step] as Record<string, unknown>;
  at[steps.at(-1)!] = Array.isArray(value) ? [...value] : value;
}

export function propertyKind(path: string, value: Value): PropertyKind {
  const kind = valueKind(value);
  return kind === 'vector' && path.startsWith('nodes/') && path.endsWith('/turn') ? 'rotation' : kind;
}

/** Name of the entity a path belongs to, for people: `lights/ID/power` gives the light's name. */
export function entityName(document: ProjectDocument, path: string): string {
  const [collection, id] = path.split('/');
  const entities = document[collection as 'nodes'] as Record<string, { name?: string }> | undefined;
  return entities?.[id ?? '']?.name ?? (collection === 'set' ? 'Set' : 'something that is gone');
}

/** Whether a name is one of those of a choice that may change over time; other words are no values. */
function isChoice(path: string, name: string): boolean {
  const property = propertyAt(path);
  return property?.kind === 'choice' && property.moves && property.schema.safeParse(name).success;
}

function valueKind(value: Value): 'number' | 'boolean' | 'vector' | 'choice' {
  if (typeof value === 'string') return 'choice';
  return typeof value === 'number' ? 'number' : typeof value === 'boolean' ? 'boolean' : 'vector';
}

function isValue(value: unknown): value is Value {
  return (
    typeof value === 'number' ||
    typeof value === 'boolean' ||
    (Array.isArray(value) && value.length === 3 && value.every((part) => typeof part === 'number'))
  );
}
