import * as z from 'zod';
import {
  copyOf,
  documentSchema,
  lastOrder,
  meshAssets,
  newId,
  nextName,
  readProperty,
  sameFinish,
  SCHEMA_VERSION,
  subtree,
  type Finish,
  type Key,
  type Move,
  type ProjectDocument,
} from '../document';
import { behaviourOf } from '../motion/moves';
import { aboutSource, pictureOfSource } from '../optics/maps';
import { placedAimed, worldTransforms } from './placement';
import { placeLocally, topmost } from './partTree';
import { restingState } from './state';

const { assets, nodes, finishes, lights, cameras, shots } = documentSchema.shape;

/** Things lifted out of a project, to be put into it again or into another one. */
export const bundleSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  /** What the finishes and parts among them are made of. */
  assets,
  /** What hung under something that was left behind stands where it stood in the world. */
  nodes,
  finishes,
  /** Finishes that were meant themselves, not only worn. */
  meant: z.array(z.string()),
  lights,
  cameras,
  shots,
  moves: shots.valueType.shape.moves,
  tracks: shots.valueType.shape.tracks,
});
export type Bundle = z.infer<typeof bundleSchema>;

type Kind = 'node' | 'finish' | 'light' | 'camera' | 'shot' | 'move';
export interface Thing {
  kind: Kind;
  id: string;
}

/**
 * Lifts things out of a project; parts come with all below them and with what they wear.
 * @param shot where the moves and keys are
 * @param marks keys, by their property and frame
 */
export function liftThings(
  document: ProjectDocument,
  shot: string | null,
  things: readonly Thing[],
  marks: readonly { path: string; frame: number }[] = [],
): Bundle {
  const ids = (kind: Kind) => things.flatMap((thing) => (thing.kind === kind ? [thing.id] : []));
  const only = <T>(record: Record<string, T>, wanted: Iterable<string>): Record<string, T> =>
    Object.fromEntries([...wanted].flatMap((id) => (record[id] ? [[id, copyOf(record[id])]] : [])));
  const state = restingState(document);
  const tops = topmost(document, ids('node'));
  const lifted = only(
    document.nodes,
    tops.flatMap((id) => subtree(document, id)),
  );
  const world = worldTransforms(state, tops);
  for (const id of tops) {
    const node = lifted[id]!;
    if (node.parent !== null) placeLocally(node, world.get(id)!);
    node.parent = null;
  }
  const aimed = placedAimed(state);
  const free = <T extends { parent: string | null }>(record: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).map(([id, each]) => [id, { ...each, parent: null }]));
  const printed = Object.values(lifted).flatMap(({ labels }) => Object.values(labels));
  const chosen = Object.values(lifted).flatMap(({ copies }) => copies?.wears ?? []);
  const worn = [...[...Object.values(lifted), ...printed].flatMap(({ finish }) => finish ?? []), ...chosen];
  const kept = only(document.finishes, [...worn, ...ids('finish')]);
  const pictures = [
    ...Object.values(kept).flatMap(({ maps }) =>
      Object.values(maps).flatMap(({ source }) => pictureOfSource(source) ?? []),
    ),
    ...printed.map(({ picture }) => picture),
  ];
  const meshes = new Set(Object.values(lifted).flatMap(({ mesh }) => (mesh ? meshAssets(mesh) : [])));
  const models = Object.values(document.assets).flatMap(({ id, hash }) => (meshes.has(hash) ? [id] : []));
  const present = shot === null ? undefined : document.shots[shot];
  const tracks: Record<string, Key[]> = {};
  for (const { path, frame } of marks) {
    const key = present?.tracks[path]?.find((each) => each.frame === frame);
    if (key) (tracks[path] ??= []).push(copyOf(key));
  }
  return {
    schemaVersion: SCHEMA_VERSION,
    assets: only(document.assets, [...pictures, ...models]),
    nodes: lifted,
    finishes: kept,
    meant: ids('finish'),
    lights: free(only(aimed.lights, ids('light'))),
    cameras: free(only(aimed.cameras, ids('camera'))),
    shots: only(document.shots, ids('shot')),
    moves: only(present?.moves ?? {}, ids('move')),
    tracks,
  };
}

/**
 * Puts lifted things into a project. Moves and keys go on what is selected where they can act on it, else on what they were on; keys begin
 * at a frame. What leads to nothing here is left out.
 * @returns what there is now that was not
 */
export function putThings(
  draft: ProjectDocument,
  bundle: Bundle,
  { shot, frame, onto = [] }: { shot: string | null; frame: number; onto?: readonly Thing[] },
): Thing[] {
  const made: Thing[] = [];
  const assetIds = new Map<string, string>();
  for (const asset of Object.values(bundle.assets)) {
    const known = Object.values(draft.assets).find(({ hash, kind }) => hash === asset.hash && kind === asset.kind);
    const id = known?.id ?? newId();
    if (!known) draft.assets[id] = { ...copyOf(asset), id };
    assetIds.set(asset.id, id);
  }
  const finishIds = new Map<string, string>();
  for (const finish of Object.values(bundle.finishes)) {
    const own = withPictures(finish, assetIds);
    const meant = bundle.meant.includes(finish.id);
    const known = meant ? undefined : Object.values(draft.finishes).find((each) => each.name === own.name && sameFinish(each, own)); // prettier-ignore
    const id = known?.id ?? newId();
    finishIds.set(finish.id, id);
    if (known) continue;
    draft.finishes[id] = { ...own, id, name: freeName(draft.finishes, own.name) };
    if (meant) made.push({ kind: 'finish', id });
  }
  const nodeIds = new Map(Object.keys(bundle.nodes).map((id) => [id, newId()]));
  let order = lastOrder(draft.nodes);
  const taken = Object.values(draft.nodes).map(({ name }) => name);
  for (const node of Object.values(bundle.nodes)) {
    const id = nodeIds.get(node.id)!;
    const top = node.parent === null;
    draft.nodes[id] = {
      ...copyOf(node),
      id,
      name: top ? nextName(taken, node.name) : node.name,
      parent: top ? null : nodeIds.get(node.parent!)!,
      order: top ? order++ : node.order,
      finish: node.finish && (finishIds.get(node.finish) ?? null),
      copies: node.copies && {
        ...copyOf(node.copies),
        wears: node.copies.wears.flatMap((finish) => finishIds.get(finish) ?? []),
      },
      labels: Object.fromEntries(
        Object.entries(node.labels).map(([own, label]) => [
          own,
          {
            ...copyOf(label),
            picture: assetIds.get(label.picture) ?? label.picture,
            finish: label.finish && (finishIds.get(label.finish) ?? null),
          },
        ]),
      ),
    };
    if (!top) continue;
    taken.push(draft.nodes[id].name);
    made.push({ kind: 'node', id });
  }
  for (const [collection, kind] of [
    ['lights', 'light'],
    ['cameras', 'camera'],
  ] as const) {
    for (const each of Object.values(bundle[collection])) {
      const id = newId();
      const own = {
        ...copyOf(each),
        id,
        name: freeName(draft[collection], each.name),
        order: lastOrder(draft[collection]),
      };
      if ('parts' in own) own.parts = own.parts.filter((node: string) => draft.nodes[node]);
      if ('aimOn' in own && own.aimOn && !draft.nodes[own.aimOn.node]) own.aimOn = null;
      if ('focusOn' in own && own.focusOn && !draft.nodes[own.focusOn.node]) own.focusOn = null;
      (draft[collection] as Record<string, typeof own>)[id] = own;
      made.push({ kind, id });
    }
  }
  for (const each of Object.values(bundle.shots)) {
    const id = newId();
    const leads = (path: string) => readProperty(draft, path) !== undefined;
    const own = copyOf(each);
    draft.shots[id] = {
      ...own,
      id,
      name: freeName(draft.shots, own.name),
      order: lastOrder(draft.shots),
      camera: own.camera && draft.cameras[own.camera] ? own.camera : (Object.keys(draft.cameras)[0] ?? null),
      changes: Object.fromEntries(Object.entries(own.changes).filter(([path]) => leads(path))),
      tracks: Object.fromEntries(Object.entries(own.tracks).filter(([path]) => leads(path))),
      moves: Object.fromEntries(
        Object.values(own.moves).flatMap((move) => (hasTarget(draft, move) ? [renamed(move, nodeIds)] : [])),
      ),
    };
    made.push({ kind: 'shot', id });
  }
  const present = shot === null ? undefined : draft.shots[shot];
  if (!present) return made;
  for (const move of Object.values(bundle.moves)) {
    const targets = onto.flatMap((thing) => targetOf(move, thing) ?? []);
    for (const target of targets.length > 0 ? targets : [move.target]) {
      if (!hasTarget(draft, { ...move, target })) continue;
      const [id, own] = renamed({ ...move, target }, nodeIds);
      present.moves[id] = own;
      made.push({ kind: 'move', id });
    }
  }
  const first = Math.min(...Object.values(bundle.tracks).flatMap((keys) => keys.map((key) => key.frame)));
  const lanes = Object.entries(bundle.tracks).flatMap(([own, keys]) => {
    const others = onto.flatMap((thing) => pathOn(own, thing) ?? []);
    return (others.length > 0 ? others : [own]).map((path) => [path, keys] as const);
  });
  for (const [path, keys] of lanes) {
    if (readProperty(draft, path) === undefined) continue;
    const shifted = keys.map((key) => ({ ...copyOf(key), frame: key.frame - first + frame }));
    const frames = new Set(shifted.map((key) => key.frame));
    const rest = (present.tracks[path] ?? []).filter((key) => !frames.has(key.frame));
    present.tracks[path] = [...rest, ...shifted].sort((a, b) => a.frame - b.frame);
  }
  return made;
}

/** A move of its own; what it carries or goes by are the copies of nodes that came along. */
function renamed(move: Move, nodes: ReadonlyMap<string, string>): [string, Move] {
  const made = { ...copyOf(move), id: newId() };
  const behaviour = behaviourOf(made);
  if (behaviour.drives === 'place') behaviour.renamed?.(made, (id) => nodes.get(id) ?? id);
  return [made.id, made];
}

function hasTarget(draft: ProjectDocument, { kind, target }: Pick<Move, 'kind' | 'target'>): boolean {
  const [collection, id = ''] = target.split('/');
  if (behaviourOf({ kind }).drives === 'value') return readProperty(draft, target) !== undefined;
  return Object.hasOwn(draft[collection as 'nodes'] ?? {}, id);
}

const COLLECTIONS = { node: 'nodes', light: 'lights', camera: 'cameras', finish: 'finishes' };

/** The same property of another thing; null where that is of another kind. */
function pathOn(path: string, { kind, id }: Thing): string | null {
  const [collection, , ...rest] = path.split('/');
  return COLLECTIONS[kind as 'node'] === collection ? [collection, id, ...rest].join('/') : null;
}

/** What a move would act on of a thing; the part of it stays that it acted on before. */
function targetOf(move: Move, { kind, id }: Thing): string | null {
  const own = COLLECTIONS[kind as 'node'];
  const { on, drives } = behaviourOf(move);
  if (!own) return null;
  if (drives === 'value') return pathOn(move.target, { kind, id });
  return on.some((each) => each === own) ? `${own}/${id}` : null;
}

function withPictures(finish: Finish, ids: ReadonlyMap<string, string>): Finish {
  const own = copyOf(finish);
  for (const [slot, map] of Object.entries(own.maps)) {
    const former = pictureOfSource(map.source);
    if (former === null) continue;
    const picture = ids.get(former);
    if (picture) map.source = aboutSource(map.source).withPicture(map.source, picture);
    else delete own.maps[slot as 'normal'];
  }
  return own;
}

const freeName = (record: Record<string, { name: string }>, name: string): string =>
  nextName(
    Object.values(record).map((each) => each.name),
    name,
  );
