import {
  copyOf,
  lastOrder,
  meshKey,
  meshOfModel,
  newId,
  newNode,
  type ProjectDocument,
  sameFinish,
  type SceneNode,
  subtree,
} from '../document';
import {
  copyPlaces,
  decompose,
  IDENTITY,
  invertTransform,
  multiplyTransforms,
  sameShape,
  subtract,
  transformPoint,
  type ShapeSignature,
  type Transform,
} from '../geometry';
import { placeAimed, unplaceAimed } from './carried';
import { carryMotion, carryToCopy, copyMotion } from './carriedMotion';
import { copyTransforms, placedAimed, worldTransforms } from './placement';
import { restingState } from './state';
import { forgetTargets } from './forget';

/** Those of the nodes that lie below no other of them, in the order of the tree. */
export function topmost(document: ProjectDocument, ids: readonly string[]): string[] {
  const wanted = new Set(ids.filter((id) => document.nodes[id]));
  const below = (id: string): boolean => {
    for (let at = document.nodes[id]?.parent ?? null; at !== null; at = document.nodes[at]?.parent ?? null) {
      if (wanted.has(at)) return true;
    }
    return false;
  };
  return [...wanted].filter((id) => !below(id)).sort((a, b) => document.nodes[a]!.order - document.nodes[b]!.order);
}

const restingWorld = (document: ProjectDocument) => worldTransforms(restingState(document));

/**
 * Hangs nodes under another one, or under none; they stay where they are in the world, and move as they did. Nodes cannot be hung below themselves.
 * Where the new parent is scaled unevenly and turned against them, only the place is kept exactly: nodes know no shear.
 */
export function attachNodes(draft: ProjectDocument, ids: readonly string[], parent: string | null): void {
  const world = restingWorld(draft);
  const inside = parent === null ? null : invertTransform(world.get(parent) ?? IDENTITY);
  let order = lastOrder(draft.nodes);
  for (const id of topmost(draft, ids)) {
    if (parent !== null && subtree(draft, id).includes(parent)) continue;
    const node = draft.nodes[id]!;
    const before = node.parent === null ? IDENTITY : world.get(node.parent)!;
    node.parent = parent;
    node.order = order++;
    placeLocally(node, inside ? multiplyTransforms(inside, world.get(id)!) : world.get(id)!);
    carryMotion(draft, node, inside ? multiplyTransforms(inside, before) : before);
  }
}

/** Nodes that hang right under one. */
const childrenOf = (document: ProjectDocument, id: string): string[] =>
  Object.values(document.nodes).flatMap((node) => (node.parent === id ? [node.id] : []));

/** Gives a node the place in its parent's space that a transform says, whatever its pivot. */
export function placeLocally(node: SceneNode, local: Transform): void {
  const { position, turn, scale } = decompose(local);
  const [px, py, pz] = node.pivot;
  const row = (k: number) => local[k * 4]! * px + local[k * 4 + 1]! * py + local[k * 4 + 2]! * pz;
  node.position = position.map((v, k) => v - node.pivot[k]! + row(k)) as [number, number, number];
  node.turn = turn;
  node.scale = scale;
}

/**
 * Hangs lights and cameras on a node, or on none; they stay where they are in the world and look where they looked.
 * @param aimed ids of lights and cameras
 */
export function carryAimed(draft: ProjectDocument, aimed: readonly string[], parent: string | null): void {
  const world = restingWorld(draft);
  for (const id of aimed) {
    const each = draft.lights[id] ?? draft.cameras[id];
    if (!each || each.parent === parent) continue;
    const placed = each.parent === null ? copyOf(each) : placeAimed(copyOf(each), world.get(each.parent));
    Object.assign(each, parent === null ? placed : unplaceAimed(placed, world.get(parent)!), { parent });
  }
}

/** Hangs what lights and cameras some nodes carry on another node. */
function carryOver(draft: ProjectDocument, from: readonly string[], to: string | null): void {
  const carriers = new Set(from);
  const carried = [...Object.values(draft.lights), ...Object.values(draft.cameras)];
  carryAimed(
    draft,
    carried.flatMap(({ id, parent }) => (parent !== null && carriers.has(parent) ? [id] : [])),
    to,
  );
}

/** Cameras that follow nodes stay sharp, and lights and cameras that are aimed at them aimed, where these are at rest. */
function unfollow(draft: ProjectDocument, nodes: ReadonlySet<string>): void {
  const resting = restingState(draft);
  const placed = placedAimed(resting);
  for (const camera of Object.values(draft.cameras)) {
    if (!camera.focusOn || !nodes.has(camera.focusOn.node)) continue;
    camera.focusDistance = placed.cameras[camera.id]!.focusDistance;
    camera.focusOn = null;
  }
  for (const light of Object.values(draft.lights))
    if (light.parts.some((id) => nodes.has(id))) light.parts = light.parts.filter((id) => !nodes.has(id));
  for (const collection of ['lights', 'cameras'] as const) {
    for (const each of Object.values(draft[collection])) {
      if (!each.aimOn || !nodes.has(each.aimOn.node)) continue;
      const carrier = each.parent === null ? undefined : worldTransforms(resting, [each.parent]).get(each.parent);
      const { target } = placed[collection][each.id]!;
      const inverse = carrier && invertTransform(carrier);
      each.target = inverse ? transformPoint(inverse, target) : target;
      each.aimOn = null;
    }
  }
}

/** Deletes nodes with all below them; lights and cameras that hung on them or followed them stay as they were in the world. */
export function removeNodes(draft: ProjectDocument, ids: readonly string[]): void {
  const all = ids.flatMap((id) => subtree(draft, id));
  carryOver(draft, all, null);
  unfollow(draft, new Set(all));
  forgetTargets(draft, 'nodes', all);
  for (const id of all) delete draft.nodes[id];
}

/** Puts nodes into a new group where the first of them hangs. @returns its id, null where there is nothing to group */
export function groupNodes(draft: ProjectDocument, ids: readonly string[], name = 'Group'): string | null {
  const [first] = topmost(draft, ids);
  if (!first) return null;
  const group = newNode({ name, parent: draft.nodes[first]!.parent, order: draft.nodes[first]!.order });
  draft.nodes[group.id] = group;
  attachNodes(draft, ids, group.id);
  return group.id;
}

/** Takes a group away and hangs what was in it where the group was. @returns what was in it */
export function ungroupNode(draft: ProjectDocument, id: string): string[] {
  const group = draft.nodes[id];
  if (!group || group.mesh) return [];
  const inside = childrenOf(draft, id);
  attachNodes(draft, inside, group.parent);
  carryOver(draft, [id], group.parent);
  delete draft.nodes[id];
  return inside;
}

/** Copies nodes with all below them and what shots do to them; meshes and finishes are shared. @returns ids of the copies */
export function duplicateNodes(draft: ProjectDocument, ids: readonly string[]): string[] {
  let order = lastOrder(draft.nodes);
  return topmost(draft, ids).map((id) => {
    const all = subtree(draft, id);
    const copies = new Map(all.map((each) => [each, newId()]));
    for (const each of all) {
      const node = copyOf(draft.nodes[each]!);
      const top = each === id;
      const parent = top ? node.parent : copies.get(node.parent!)!;
      const made = { ...node, id: copies.get(each)!, parent, order: top ? order++ : node.order };
      draft.nodes[made.id] = top ? { ...made, name: `${node.name} copy`.slice(0, 200) } : made;
    }
    copyMotion(draft, copies);
    return copies.get(id)!;
  });
}

/**
 * Makes one part of several: the first keeps its place, name and finish and shows the triangles of all.
 * @returns its id, null where there are not two parts
 */
export function joinParts(draft: ProjectDocument, ids: readonly string[]): string | null {
  const parts = topmost(draft, ids).filter((id) => draft.nodes[id]!.mesh);
  const [first, ...others] = parts;
  if (!first || others.length === 0) return null;
  const world = restingWorld(draft);
  const inside = invertTransform(world.get(first)!);
  if (!inside) return null;
  const mesh = copyOf(draft.nodes[first]!.mesh!);
  mesh.joined ??= [];
  for (const id of others) {
    const { joined, ...own } = copyOf(draft.nodes[id]!.mesh!);
    const local = multiplyTransforms(inside, world.get(id)!);
    mesh.joined.push({ ...own, transform: [...local] });
    for (const each of joined ?? []) {
      mesh.joined.push({ ...each, transform: [...multiplyTransforms(local, each.transform)] });
    }
    attachNodes(draft, childrenOf(draft, id), first);
    carryOver(draft, [id], first);
    delete draft.nodes[id];
  }
  draft.nodes[first]!.mesh = mesh;
  return first;
}

/**
 * Makes of one part a group with a part for each list of its faces.
 * @returns ids of the parts; none where there is nothing to divide
 */
export function splitPart(draft: ProjectDocument, id: string, groups: readonly (readonly number[])[]): string[] {
  const part = draft.nodes[id];
  if (!part?.mesh || part.mesh.joined || groups.length < 2) return [];
  const { mesh } = part;
  const order = lastOrder(draft.nodes);
  const made = groups.map((faces, k) =>
    newNode({
      name: `${part.name} ${k + 1}`.slice(0, 200),
      kind: 'part',
      parent: id,
      order: order + k,
      mesh: { ...copyOf(mesh), faces: [...faces] },
      finish: part.finish,
      glow: part.glow,
      origin: part.origin && copyOf(part.origin),
    }),
  );
  for (const each of made) draft.nodes[each.id] = each;
  Object.assign(part, { kind: 'group', mesh: null, finish: null });
  return made.map((each) => each.id);
}

/** Makes nodes of their own of a node's copies, which then differ as one likes. @returns their ids, the node's own first */
export function separateCopies(draft: ProjectDocument, id: string): string[] {
  const node = draft.nodes[id];
  if (!node?.copies) return [];
  const [own, ...others] = copyTransforms(copyOf(node));
  const turns = copyPlaces(node.copies).map(({ turn }) => turn);
  const before = copyOf(node.position);
  node.copies = null;
  const made = others.map((local, k) => {
    const copy = duplicateNodes(draft, [id])[0]!;
    draft.nodes[copy]!.name = `${node.name} ${k + 2}`.slice(0, 200);
    placeLocally(draft.nodes[copy]!, local);
    carryToCopy(draft, copy, subtract(draft.nodes[copy]!.position, before), turns[k + 1]!);
    return copy;
  });
  placeLocally(node, own!);
  carryToCopy(draft, id, subtract(node.position, before), turns[0]!);
  return [id, ...made];
}

/**
 * Parts that have the shape and size of one of the parts, or that wear the same finish.
 * @param shapeOf the signature of a whole mesh of a file, where it is known; without it, only what shows the same mesh is alike
 */
export function partsAlike(
  document: ProjectDocument,
  ids: readonly string[],
  by: 'shape' | 'finish',
  shapeOf: (mesh: { asset: string; index: number }) => ShapeSignature | undefined = () => undefined,
): string[] {
  const parts = Object.values(document.nodes).filter((node) => node.mesh);
  const meant = new Set(ids);
  const wanted = parts.filter(({ id }) => meant.has(id));
  const wholeShape = ({ mesh }: SceneNode) => {
    const own = meshOfModel(mesh);
    return own && !mesh!.faces && !mesh!.joined ? shapeOf(own) : undefined;
  };
  const alike = (a: SceneNode, b: SceneNode) => {
    if (by === 'finish') {
      const [own, other] = [a, b].map(({ finish }) => document.finishes[finish ?? '']);
      return a.finish === b.finish || (!!own && !!other && sameFinish(own, other));
    }
    if (!a.scale.every((v, k) => Math.abs(v - b.scale[k]!) < 1e-6)) return false;
    const [own, other] = [wholeShape(a), wholeShape(b)];
    return meshKey(a.mesh!) === meshKey(b.mesh!) || (!!own && !!other && sameShape(own, other));
  };
  return parts.filter((part) => meant.has(part.id) || wanted.some((each) => alike(each, part))).map(({ id }) => id);
}

/** Names for parts in their order: `#` stands for their number, as many digits as there are signs; `*` for the name they had. */
export function nameByPattern(pattern: string, names: readonly string[]): string[] {
  return names.map((name, k) => {
    const numbered = /#/.test(pattern)
      ? pattern.replace(/#+/g, (signs) => String(k + 1).padStart(signs.length, '0'))
      : /\*/.test(pattern) || names.length === 1
        ? pattern
        : `${pattern} ${k + 1}`;
    return (numbered.replaceAll('*', name).trim() || name).slice(0, 200);
  });
}
