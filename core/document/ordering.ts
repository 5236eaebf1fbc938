import type { ProjectDocument, SceneNode, Shot } from './schema';

/** Entities of a record in their set order; ties by id, so that every machine agrees. */
export function inOrder<T extends { order: number; id: string }>(record: Readonly<Record<string, T>>): T[] {
  return Object.values(record).sort(byOrder);
}

const byOrder = (a: { order: number; id: string }, b: { order: number; id: string }): number =>
  a.order - b.order || (a.id < b.id ? -1 : 1);

/** Ids of records that cannot change any more, in their order: they are asked for on every frame. */
const known = new WeakMap<object, readonly string[]>();

/** Ids of the entities of a record in their set order. */
export function idsInOrder(record: Readonly<Record<string, { order: number; id: string }>>): readonly string[] {
  const before = known.get(record);
  if (before) return before;
  const ids = Object.values(record)
    .sort(byOrder)
    .map(({ id }) => id);
  if (Object.isFrozen(record)) known.set(record, ids);
  return ids;
}

/** An order number that puts a new entity behind all others. */
export function lastOrder(record: Readonly<Record<string, { order: number }>>): number {
  return Object.values(record).reduce((most, { order }) => Math.max(most, order + 1), 0);
}

export const shotsInOrder = (document: ProjectDocument): Shot[] => inOrder(document.shots);

/** Children of every node by parent id; the roots stand under the empty string. */
export function childrenByParent(document: ProjectDocument): Map<string, SceneNode[]> {
  const children = new Map<string, SceneNode[]>();
  for (const node of inOrder(document.nodes)) {
    const parent = node.parent ?? '';
    const siblings = children.get(parent);
    if (siblings) siblings.push(node);
    else children.set(parent, [node]);
  }
  return children;
}

/** The node itself and all below it. */
export function subtree(document: ProjectDocument, id: string): string[] {
  const children = childrenByParent(document);
  const found: string[] = [];
  const waiting = [id];
  while (waiting.length > 0) {
    const next = waiting.pop()!;
    if (!document.nodes[next]) continue;
    found.push(next);
    waiting.push(...(children.get(next) ?? []).map((node) => node.id));
  }
  return found;
}
