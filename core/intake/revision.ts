import { carryPlaces, placeLocally, removeNodes, worldTransforms } from '../scene';
import { evaluateProperties } from '../motion';
import {
  copyOf,
  inOrder,
  lastOrder,
  meshOfModel,
  newId,
  newNode,
  type Asset,
  type ProjectDocument,
  type SceneNode,
} from '../document';
import { IDENTITY, invertTransform, multiplyTransforms, subtract, type Transform } from '../geometry';
import { importedFinish, treePaths, type ModelTree } from './place';
import { alikePlaces, type RevisionMatch, type RevisionPart } from './revisionMatch';
import { modelTransforms } from './summary';

/** A part of the project's model with all nodes that show it. */
export interface PresentPart extends Omit<RevisionPart, 'shape'> {
  nodes: string[];
}

/** The parts of a model as a project has them, those that show the same part of the file together. */
export function presentParts(document: ProjectDocument, hash: string): PresentPart[] {
  const parts = new Map<string, PresentPart>();
  for (const node of inOrder(document.nodes)) {
    const mesh = meshOfModel(node.mesh);
    if (mesh?.asset !== hash) continue;
    const path = node.origin?.path ?? namePath(document, node);
    // Several solids of one name in one group are told apart by where they are.
    const key = `${path}|${mesh.index}|${node.origin?.place.join() ?? node.id}`;
    const known = parts.get(key);
    if (known) known.nodes.push(node.id);
    else parts.set(key, { path, name: node.name, mesh: mesh.index, place: (node.origin?.place as Transform | undefined) ?? null, nodes: [node.id] }); // prettier-ignore
  }
  return [...parts.values()];
}

/** The parts of a tree that was read, with where the file has them. */
export function treeParts(tree: ModelTree): (Omit<RevisionPart, 'shape'> & { node: number; place: Transform })[] {
  const paths = treePaths(tree.nodes);
  const places = modelTransforms(tree);
  return tree.nodes.flatMap((node, k) =>
    node.mesh === null ? [] : [{ path: paths[k]!, name: node.name, mesh: node.mesh, place: places[k]!, node: k }],
  );
}

function namePath(document: ProjectDocument, node: SceneNode): string {
  const names: string[] = [];
  for (let at: SceneNode | undefined = node; at; at = at.parent === null ? undefined : document.nodes[at.parent])
    names.unshift(at.name);
  return names.join(' / ');
}

/** What takes the place of a model's file. */
export type NewRevision = Pick<Asset, 'hash' | 'sourceHash' | 'sourceName' | 'companions' | 'found' | 'recipe'>;

/**
 * Puts a new revision in the place of a model: parts that are known keep their node with its finish, moves, keys, turning
 * point and whatever was done to its place, and show the new mesh; where the file moved a part, it is moved by as much.
 * What is gone goes, or stays as it was with the old file; what is new comes in where the file has it.
 * @param asset id of the model
 * @param pictures asset ids of the revision's pictures in their order, null for what could not be kept
 * @returns ids of nodes that are new
 */
export function applyRevision(
  draft: ProjectDocument,
  asset: string,
  revision: NewRevision,
  tree: ModelTree,
  matches: readonly RevisionMatch[],
  pictures: readonly (string | null)[] = [],
): string[] {
  const own = draft.assets[asset];
  if (!own) return [];
  const old = copyOf(own);
  const present = presentParts(draft, old.hash);
  const parts = treeParts(tree);
  const world = worldTransforms(evaluateProperties(draft, null, 1));
  const root = rootTransform(draft, present, world);
  const meshes = new Map<number, number>();
  const finishes = new Map<number, string>();
  for (const { before, after } of matches) {
    if (before === null || after === null) continue;
    const [part, next] = [present[before]!, parts[after]!];
    meshes.set(part.mesh, next.mesh);
    for (const id of part.nodes) {
      const node = draft.nodes[id]!;
      const finish = tree.nodes[next.node]!.finish;
      if (finish !== null && node.finish !== null) finishes.set(finish, finishes.get(finish) ?? node.finish);
      if (part.place && !alikePlaces(part.place, next.place))
        shiftNode(draft, node, part.place, next.place, root, world);
      const mesh = meshOfModel(node.mesh)!;
      mesh.asset = revision.hash;
      mesh.index = next.mesh;
      node.origin = { path: next.path, place: [...next.place] };
    }
  }
  for (const { mesh } of Object.values(draft.nodes)) {
    for (const each of mesh?.joined ?? []) {
      const piece = meshOfModel(each);
      const index = piece?.asset === old.hash ? meshes.get(piece.index) : undefined;
      if (piece && index !== undefined) Object.assign(piece, { asset: revision.hash, index });
    }
  }
  const gone = matches.filter(({ before, after, keep }) => before !== null && after === null && !keep);
  removeNodes(
    draft,
    gone.flatMap(({ before }) => present[before!]!.nodes.filter((id) => draft.nodes[id])),
  );
  const kept = copyOf(old);
  Object.assign(own, revision);
  if (usesFile(draft, old.hash)) {
    const id = newId();
    draft.assets[id] = { ...kept, id, name: `${kept.name} before`.slice(0, 200) };
  }
  const coming = matches.flatMap(({ before, after, keep }) =>
    before === null && after !== null && keep ? [after] : [],
  );
  return addParts(draft, revision.hash, tree, coming.map((after) => parts[after]!), root, finishes, pictures); // prettier-ignore
}

const usesFile = (document: ProjectDocument, hash: string): boolean =>
  Object.values(document.nodes).some(({ mesh }) =>
    [mesh, ...(mesh?.joined ?? [])].some((each) => meshOfModel(each)?.asset === hash),
  );

/** Where the file's own space lies in the world: by a part that stands where the file has it against most of the others. */
function rootTransform(
  document: ProjectDocument,
  present: readonly PresentPart[],
  world: ReadonlyMap<string, Transform>,
): Transform {
  // A part that was moved by hand tells nothing: the place that most parts agree on counts.
  const votes = new Map<string, { count: number; transform: Transform }>();
  for (const { place, nodes } of present) {
    const inverse = place && invertTransform(place);
    if (!inverse) continue;
    const transform = multiplyTransforms(world.get(nodes[0]!)!, inverse);
    const key = transform.map((v) => v.toFixed(2)).join();
    const vote = votes.get(key) ?? { count: 0, transform };
    vote.count++;
    votes.set(key, vote);
  }
  const most = [...votes.values()].sort((a, b) => b.count - a.count)[0];
  if (most) return most.transform;
  // Models of older projects: whatever all of them hang under.
  const parent = present[0] && document.nodes[present[0].nodes[0]!]!.parent;
  let top = parent ?? null;
  while (top !== null && document.nodes[top]!.parent !== null) top = document.nodes[top]!.parent;
  return (top !== null && world.get(top)) || IDENTITY;
}

/** Moves a node by what the file moved its part, in the file's own space; its keys go along. */
function shiftNode(
  draft: ProjectDocument,
  node: SceneNode,
  from: Transform,
  to: Transform,
  root: Transform,
  world: ReadonlyMap<string, Transform>,
): void {
  const [back, out] = [invertTransform(from), invertTransform(root)];
  const parent = node.parent === null ? IDENTITY : (world.get(node.parent) ?? IDENTITY);
  const inside = invertTransform(parent);
  if (!back || !out || !inside) return;
  const change = multiplyTransforms(multiplyTransforms(root, multiplyTransforms(to, back)), out);
  const before = copyOf(node.position);
  placeLocally(node, multiplyTransforms(inside, multiplyTransforms(change, world.get(node.id)!)));
  carryPlaces(draft, node.id, subtract(node.position, before));
}

function addParts(
  draft: ProjectDocument,
  asset: string,
  tree: ModelTree,
  coming: readonly ReturnType<typeof treeParts>[number][],
  root: Transform,
  finishes: Map<number, string>,
  pictures: readonly (string | null)[],
): string[] {
  const world = worldTransforms(evaluateProperties(draft, null, 1));
  const nodes = Object.values(draft.nodes);
  const byPath = new Map(nodes.flatMap((node) => (node.origin ? [[node.origin.path, node.id] as const] : [])));
  const paths = treePaths(tree.nodes);
  const siblings = treeParts(tree);
  const parentOf = (part: (typeof coming)[number]): string | null => {
    const { parent } = tree.nodes[part.node]!;
    const group = parent < 0 ? undefined : byPath.get(paths[parent]!);
    if (group && !draft.nodes[group]!.mesh) return group;
    // Without its group, a new part hangs where its neighbours in the file hang.
    const beside = siblings.find((each) => tree.nodes[each.node]!.parent === parent && byPath.has(each.path));
    return beside ? draft.nodes[byPath.get(beside.path)!]!.parent : null;
  };
  const finishOf = (index: number | null): string | null => {
    if (index === null) return null;
    let finish = finishes.get(index);
    if (!finish) {
      const made = importedFinish(tree.finishes[index]!, index, pictures);
      const same = Object.values(draft.finishes).find(({ name }) => name === made.name);
      if (!same) draft.finishes[made.id] = made;
      finish = same?.id ?? made.id;
      finishes.set(index, finish);
    }
    return finish;
  };
  let order = lastOrder(draft.nodes);
  return coming.map((part) => {
    const source = tree.nodes[part.node]!;
    const parent = parentOf(part);
    const inside = invertTransform((parent !== null && world.get(parent)) || IDENTITY) ?? IDENTITY;
    const node = newNode({
      name: source.name,
      parent,
      order: order++,
      kind: 'part',
      mesh: { asset, index: part.mesh, ...(source.faces ? { faces: source.faces } : {}) },
      finish: finishOf(source.finish),
      origin: { path: part.path, place: [...part.place] },
    });
    placeLocally(node, multiplyTransforms(inside, multiplyTransforms(root, part.place)));
    draft.nodes[node.id] = node;
    return node.id;
  });
}
