import {
  idsInOrder,
  inOrder,
  propertyKind,
  readProperty,
  subtree,
  writeProperty,
  type Camera,
  type Finish,
  type Light,
  type MeshRef,
  type Move,
  type ProjectDocument,
  type SceneNode,
  type Shot,
  type StudioSet,
  type Value,
} from '../document';
import type { Transform } from '../geometry';
import { lampsOf, placedAimed, placeNode, restingState, type PlacedNode, type SceneState, type Seen } from '../scene';
import { dressedBy } from './colourways';
import { dressCopies, type Worn } from './dressedCopies';
import { playFootage } from './footage';
import { labelled } from './labels';
import { carryThings, ofNode, placeIn } from './carry';
import { movedPart } from './movedPart';
import { playPlate } from './plate';
import { behaviourOf, blendValues } from './moves';
import { trackValue } from './track';

/** One part as it stands in the world on one frame. */
export interface PartState {
  node: string;
  name: string;
  /** Tells apart what shows the same node several times: the node's id, and a number for each copy after the first. */
  instance: string;
  mesh: MeshRef;
  transform: Transform;
  finish: string | null;
  glow: number;
  seen: Seen;
}

/** All that the tracer reads of one frame, after evaluation. Lights that are off are left out. */
export interface FrameState {
  parts: PartState[];
  finishes: Record<string, Finish>;
  lights: Light[];
  camera: Camera | null;
  set: StudioSet;
  /** Lamps and luminous finishes that shine on some frame of the shot, dark on this one or not: each has its layer on all. */
  sources?: { lamps: Pick<Light, 'id' | 'name' | 'group'>[]; finishes: string[] };
  /** What happens while the shutter is open, slice by slice; missing where nothing does. See shutter.ts. */
  shutter?: { from: FrameState; middle: FrameState; to: FrameState }[];
  /** The frame that follows, where motion is kept. */
  next?: FrameState;
}

/**
 * The resting state with the shot's changes, then its keys, then its moves laid over it. Never changes the document.
 * @param shot null shows the resting state
 * @param frame the shot's frame, from 1; may be fractional
 */
export function evaluateProperties(document: ProjectDocument, shot: Shot | null, frame: number): SceneState {
  const state = restingState(document);
  if (!shot) return state;
  const { numerator, denominator } = document.frameRate;
  state.moment = { seconds: ((frame - 1) * denominator) / numerator, share: (frame - 1) / shot.length };
  const own = new Set<string>();
  const assign: SetValue = (path, value) => {
    detach(state, path, own);
    writeProperty(state, path, value);
  };
  for (const [path, value] of Object.entries(shot.changes)) assign(path, value);
  for (const [path, keys] of Object.entries(shot.tracks)) {
    const resting = readProperty(state, path);
    if (keys.length > 0 && resting !== undefined) assign(path, trackValue(keys, frame, propertyKind(path, resting)));
  }
  for (const move of actingMoves(shot, frame)) {
    setDriven(state, move, frame, assign);
    carryThings(
      state,
      move,
      frame,
      (path) => detach(state, path, own),
      (node, at) => placeElsewhere(document, shot, move, node, at),
    );
  }
  return state;
}

/** Where a node is on another frame, for a move that goes by it. */
function placeElsewhere(document: ProjectDocument, shot: Shot, move: Move, node: string, frame: number) {
  if (!document.nodes[node]) return null;
  const own = ofNode(document, shot, node, move);
  return placeIn(evaluateProperties(movedPart(document, own, [`nodes/${node}`]), own, frame), node);
}

/**
 * All that the tracer reads of one frame of a shot.
 * @param state every property on that frame, where that is known already
 */
export function evaluate(
  document: ProjectDocument,
  shot: Shot | null,
  frame: number,
  state: SceneState = evaluateProperties(document, shot, frame),
): FrameState {
  const world = new Map<string, PlacedNode>();
  const parts: PartState[] = [];
  /** With labels on them, or between two. */
  const made: Record<string, Finish> = {};
  const dressed = dressedBy(document, shot);
  const finishOf = (node: SceneNode, { id, blended }: Worn): string | null => {
    if (!blended && !hasLabels(node)) return id;
    const own = blended ?? (id === null ? null : (state.finishes[id] ?? null));
    const seen = hasLabels(node) ? labelled(own, node.id, node.labels, state.finishes) : blended;
    if (seen) made[seen.id] = seen;
    return seen ? seen.id : id;
  };
  // Of a document without copies no part has to ask what it hangs under for them.
  const copied = Object.values(document.nodes).some(({ copies }) => copies !== null);
  for (const id of idsInOrder(document.nodes)) {
    const node = state.nodes[id]!;
    const placed = placeNode(state, node, world);
    if (!node.mesh || !placed.visible) continue;
    const worn = dressed(node);
    const byCopy = copied ? dressCopies(document, state, node, worn) : null;
    const same = byCopy ? null : finishOf(node, { id: worn });
    for (let k = 0; k < placed.instances.length; k++) {
      parts.push({
        node: node.id,
        instance: k === 0 ? node.id : `${node.id}/${k}`,
        name: node.name,
        mesh: node.mesh,
        transform: placed.instances[k]!,
        finish: byCopy ? finishOf(node, byCopy(k)) : same,
        glow: node.glow,
        seen: placed.seen,
      });
    }
  }
  const aimed = placedAimed(state, world);
  const worn = new Set(parts.map((part) => part.finish));
  const burning = inOrder(aimed.lights).filter((light) => light.on && light.power > 0);
  const solo = burning.filter((light) => light.solo);
  const shining = solo.length > 0 ? solo : burning;
  const lights = shining.flatMap((light) => lampsOf(withAllBelow(document, light), state.moment));
  const shines = new Set(shining.map(({ id }) => id));
  const still = [...Object.entries(state.finishes).filter(([id]) => worn.has(id)), ...Object.entries(made)];
  const finishes = Object.fromEntries(still.map(([id, finish]) => [id, playFootage(finish, document, frame)]));
  const switched = switchedSources(shot);
  return {
    parts,
    finishes,
    lights,
    sources: {
      lamps: inOrder(state.lights)
        .filter((light) => shines.has(light.id) || (solo.length === 0 && switched.has(light.id)))
        .map(({ id, name, group }) => ({ id, name, group })),
      finishes: Object.values(finishes)
        .filter(({ id, emissionPower }) => emissionPower > 0 || switched.has(id))
        .map(({ name }) => name),
    },
    camera: (shot?.camera && aimed.cameras[shot.camera]) || inOrder(aimed.cameras)[0] || null,
    set: playPlate(state.set, document, frame),
  };
}

function hasLabels({ labels }: SceneNode): boolean {
  for (const _ in labels) return true;
  return false;
}

/** A light with all nodes that it lights or leaves out, those below others too. */
const withAllBelow = (document: ProjectDocument, light: Light): Light =>
  light.reaches === 'all' ? light : { ...light, parts: light.parts.flatMap((id) => subtree(document, id)) };

/** Ids of lights and finishes whose power or switch a shot changes over time. */
function switchedSources(shot: Shot | null): Set<string> {
  const paths = shot ? [...Object.keys(shot.tracks), ...Object.values(shot.moves).map(({ target }) => target)] : [];
  return new Set(
    paths.flatMap((path) => /^(?:lights|finishes)\/([^/]+)\/(?:on|power|emissionPower)$/.exec(path)?.[1] ?? []),
  );
}

/** Moves that exclude one another take turns on a property: the one that began last counts. Everything else acts together. */
export function actingMoves(shot: Shot, frame: number): Move[] {
  const moves = Object.values(shot.moves).filter(({ muted }) => !muted);
  moves.sort((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
  const turn = new Map<string, Move>();
  const excludes = (move: Move) => {
    const behaviour = behaviourOf(move);
    return behaviour.drives === 'value' && behaviour.exclusive;
  };
  for (const move of moves) {
    if (excludes(move) && (!turn.has(move.target) || move.start <= frame)) turn.set(move.target, move);
  }
  return moves.filter((move) => !excludes(move) || turn.get(move.target) === move);
}

type SetValue = (path: string, value: Value) => void;

function setDriven(state: SceneState, move: Move, frame: number, setValue: SetValue): void {
  const behaviour = behaviourOf(move);
  const present = readProperty(state, move.target);
  if (behaviour.drives !== 'value' || present === undefined) return;
  const turns = propertyKind(move.target, present) === 'rotation';
  const value = behaviour.value(move, frame, turns);
  setValue(move.target, move.weight < 1 ? blendValues(present, value, move.weight, turns) : value);
}

/** Gives the evaluated state its own copy of the entity a path leads to, so that the document stays untouched. */
function detach(state: SceneState, path: string, own: Set<string>): void {
  const [collection, id, , deeper] = path.split('/') as [keyof SceneState, string, string?, string?];
  if (collection === 'set') {
    if (!own.has('set')) state.set = structuredClone(state.set);
    own.add('set');
    return;
  }
  // A property of the entity itself is replaced as a whole: what the entity holds besides stays the document's.
  const entity = deeper === undefined ? `${collection}/${id}` : `${collection}/${id}/deep`;
  if (own.has(entity)) return;
  own.add(entity);
  const record = state[collection] as Record<string, object> | undefined;
  const present = record?.[id];
  if (record && present) record[id] = deeper === undefined ? { ...present } : structuredClone(present);
}
