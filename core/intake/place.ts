import { placeLocally } from '../scene';
import {
  finishSchema,
  intoRange,
  LIMITS,
  mapSchema,
  newFinish,
  newId,
  newMap,
  newNode,
  sameFinish,
  UserProblem,
  type Finish,
  type SceneNode,
  type Vector3,
  sayNumber,
} from '../document';
import {
  boundsOfPositions,
  centreOf,
  decompose,
  emptyBounds,
  IDENTITY,
  invertTransform,
  isEmpty,
  isIdentity,
  transformBounds,
  transformPoint,
  unite,
} from '../geometry';
import type { Model, ModelFinish } from './model';
import { modelBounds, modelTransforms } from './summary';

/** Nodes and finishes that a normalised model adds to a document. */
export interface Placement {
  root: string;
  nodes: SceneNode[];
  finishes: Finish[];
  /** Ids of the nodes that stand for the tree's, in their order; what came along hangs on them. */
  ids: string[];
}

/** Where a model is put: its middle over the origin, its lowest point on the floor; else where the file has it. */
export interface Standing {
  centered: boolean;
  onFloor: boolean;
}

/** What the page needs of a model to place it: everything but its meshes. */
export type ModelTree = Pick<Model, 'nodes' | 'finishes' | 'along'> & {
  center: [number, number, number];
  bottom: number;
  /** Along the axes, millimetres. */
  size: [number, number, number];
  /** The middle of each node with all below it, in its own space; null where there is nothing to see. */
  middles: ([number, number, number] | null)[];
};

/**
 * @param model in millimetres, upright
 * @throws UserProblem `model-too-large` where a part would lie farther out than a document can say
 */
export function modelTree(model: Model): ModelTree {
  const { low, high } = modelBounds(model);
  let far = Math.max(...[...low, ...high].map(Math.abs));
  for (const { transform } of model.nodes) {
    const { position, scale } = decompose(transform);
    far = Math.max(far, ...[...position, ...scale].map(Math.abs));
  }
  if (!(far <= LIMITS.coordinate / 2)) {
    throw new UserProblem(
      'model-too-large',
      `In this unit the model reaches ${sayNumber(Math.round(far / 1e6))} km far; at most ${LIMITS.coordinate / 2e6} km can be placed. Choose a smaller unit, or export it without what lies far out.`,
      422,
    );
  }
  return {
    nodes: model.nodes,
    finishes: model.finishes,
    ...(model.along ? { along: model.along } : {}),
    center: [0, 1, 2].map((k) => (low[k]! + high[k]!) / 2) as [number, number, number],
    bottom: low[1],
    size: [0, 1, 2].map((k) => Math.max(0, high[k]! - low[k]!)) as [number, number, number],
    middles: middlesOf(model),
  };
}

/**
 * A model under one group that centres it and stands it on the floor.
 * @param asset content hash of the GLB with the model's meshes
 * @param pictures asset ids of the model's pictures in their order, null for what could not be kept
 */
export function placeModel(
  tree: ModelTree,
  asset: string,
  name: string,
  order: number,
  pictures: readonly (string | null)[] = [],
  { centered, onFloor }: Standing = { centered: true, onFloor: true },
): Placement {
  const [x, , z] = centered ? tree.center : [0, 0, 0];
  const paths = treePaths(tree.nodes);
  const places = modelTransforms(tree);
  // It turns about the product's middle, wherever the file has its origin.
  const root = newNode({
    name,
    order,
    position: [-x, onFloor ? -tree.bottom : 0, -z],
    pivot: tree.center.map(tidy) as Vector3,
  });
  // Keys that came along are reckoned from the file's own origins.
  const moving = new Set(tree.along?.motion.map(({ node }) => node));
  const imported = tree.finishes.map((finish, k) => importedFinish(finish, k, pictures));
  // Programs write one material many times over: those that are equal become one.
  const finishes = imported.map((finish) =>
    imported.find((each) => each.name === finish.name && sameFinish(each, finish))!,
  );
  const only = tree.nodes.filter((node) => node.parent < 0);
  // An assembly that has one root of its own needs no second group round it.
  const single = only.length === 1 && only[0]!.mesh === null && isIdentity(only[0]!.transform);
  const ids = tree.nodes.map((_, k) => (single && k === tree.nodes.indexOf(only[0]!) ? root.id : newId()));
  if (single)
    Object.assign(root, {
      name: only[0]!.name,
      origin: { path: paths[tree.nodes.indexOf(only[0]!)]!, place: [...IDENTITY] },
    });
  const nodes = tree.nodes.flatMap((node, k) => {
    if (ids[k] === root.id) return [];
    const origin = { path: paths[k]!, place: [...places[k]!] } as SceneNode['origin'];
    const placed = newNode({
      id: ids[k]!,
      name: node.name,
      parent: node.parent < 0 ? root.id : ids[node.parent]!,
      order: k,
      kind: node.mesh === null ? 'group' : 'part',
      pivot: ((!moving.has(k) && tree.middles[k]) || [0, 0, 0]).map(tidy) as Vector3,
      origin,
      mesh: node.mesh === null ? null : { asset, index: node.mesh, ...(node.faces ? { faces: node.faces } : {}) },
      finish: node.finish === null ? null : finishes[node.finish]!.id,
    });
    placeLocally(placed, node.transform);
    return [placed];
  });
  return { root: root.id, nodes: [root, ...nodes], finishes: [...new Set(finishes)], ids };
}

/** A thousandth of a micrometre is nothing but the noise of reckoning. */
const tidy = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;

function middlesOf(model: Model): ModelTree['middles'] {
  const world = modelTransforms(model);
  const boxes = model.meshes.map((mesh) => boundsOfPositions(mesh.positions));
  const around = model.nodes.map(({ mesh }, k) => {
    const bounds = emptyBounds();
    if (mesh !== null && !isEmpty(boxes[mesh]!)) unite(bounds, transformBounds(boxes[mesh]!, world[k]!));
    return bounds;
  });
  // Children come after what they hang under.
  for (let k = model.nodes.length - 1; k >= 0; k--) {
    const { parent } = model.nodes[k]!;
    if (parent >= 0 && !isEmpty(around[k]!)) unite(around[parent]!, around[k]!);
  }
  return model.nodes.map(({ mesh }, k) => {
    if (isEmpty(around[k]!)) return null;
    // Of a part the box along its own axes, which its turn does not widen.
    if (mesh !== null) return centreOf(boxes[mesh]!);
    const inverse = invertTransform(world[k]!);
    return inverse && transformPoint(inverse, centreOf(around[k]!));
  });
}

/** The names from the root down to each node. */
export function treePaths(nodes: ModelTree['nodes']): string[] {
  const paths: string[] = [];
  for (const { name, parent } of nodes) paths.push(parent < 0 ? name : `${paths[parent]} / ${name}`);
  return paths.map((path) => path.slice(0, 10_000));
}

export function importedFinish(
  { name, values, maps }: ModelFinish,
  index: number,
  pictures: readonly (string | null)[],
): Finish {
  const worn = maps.flatMap(({ slot, picture, over }) => {
    const asset = pictures[picture];
    return asset ? [[slot, newMap(slot, asset, intoRange(mapSchema, over))] as const] : [];
  });
  return newFinish({
    ...intoRange(finishSchema, values),
    name: name.slice(0, LIMITS.nameLength) || `Imported ${index + 1}`,
    maps: Object.fromEntries(worn),
  });
}
