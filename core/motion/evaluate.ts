import {
  inOrder,
  propertyKind,
  readProperty,
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
} from '../document';
import {
  add,
  composeTransform,
  copyPlaces,
  copyTurn,
  IDENTITY,
  mix,
  multiplyQuaternions,
  multiplyTransforms,
  quaternionAbout,
  quaternionFromTurn,
  rotateVector,
  scale,
  subtract,
  transformPoint,
  type Quaternion,
  type Transform,
  type Vector,
} from '../geometry';
import { placeAimed } from './carried';
import { focusDistanceTo } from './focus';
import { blinkValue, moveAngle, moveProgress } from './moves';
import { paced } from './pace';
import { blendValues, trackValue } from './track';

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

/** The document as one frame of a shot shows it: every property at its value, and what moves add to places. */
export interface Evaluated {
  nodes: Record<string, SceneNode>;
  finishes: Record<string, Finish>;
  lights: Record<string, Light>;
  cameras: Record<string, Camera>;
  set: StudioSet;
  /** Turns that moves add to nodes, in the space of the node's parent. */
  spins: Map<string, Quaternion>;
}

/**
 * The resting state with the shot's changes, then its keys, then its moves laid over it. Never changes the document.
 * @param shot null shows the resting state
 * @param frame the shot's frame, from 1; may be fractional
 */
export function evaluateProperties(document: ProjectDocument, shot: Shot | null, frame: number): Evaluated {
  const { nodes, finishes, lights, cameras, set } = document;
  const state: Evaluated = {
    nodes: { ...nodes },
    finishes: { ...finishes },
    lights: { ...lights },
    cameras: { ...cameras },
    set,
    spins: new Map(),
  };
  if (!shot) return state;
  const own = new Set<string>();
  const assign = (path: string, value: Parameters<typeof writeProperty>[2]) => {
    detach(state, path, own);
    writeProperty(state, path, value);
  };
  for (const [path, value] of Object.entries(shot.changes)) assign(path, value);
  for (const [path, keys] of Object.entries(shot.tracks)) {
    const resting = readProperty(state, path);
    if (keys.length > 0 && resting !== undefined) assign(path, trackValue(keys, frame, propertyKind(path, resting)));
  }
  for (const move of actingMoves(shot, frame)) applyMove(state, move, frame, assign, own);
  return state;
}

/** All that the tracer reads of one frame of a shot. */
export function evaluate(document: ProjectDocument, shot: Shot | null, frame: number): FrameState {
  const state = evaluateProperties(document, shot, frame);
  const world = new Map<string, PlacedNode>();
  const parts: PartState[] = [];
  for (const node of inOrder(state.nodes)) {
    const placed = placeNode(state, node, world);
    if (!node.mesh || !placed.visible) continue;
    placed.instances.forEach((transform, k) => {
      parts.push({
        node: node.id,
        instance: k === 0 ? node.id : `${node.id}/${k}`,
        name: node.name,
        mesh: node.mesh!,
        transform,
        finish: node.finish,
        glow: node.glow,
      });
    });
  }
  const aimed = placedAimed(state, world);
  const worn = new Set(parts.map((part) => part.finish));
  const burning = inOrder(aimed.lights).filter((light) => light.on && light.power > 0);
  const solo = burning.filter((light) => light.solo);
  const lights = solo.length > 0 ? solo : burning;
  const finishes = Object.fromEntries(Object.entries(state.finishes).filter(([id]) => worn.has(id)));
  const switched = switchedSources(shot);
  return {
    parts,
    finishes,
    lights,
    sources: {
      lamps: inOrder(state.lights)
        .filter((light) => lights.includes(light) || (solo.length === 0 && switched.has(light.id)))
        .map(({ id, name, group }) => ({ id, name, group })),
      finishes: Object.values(finishes)
        .filter(({ id, emissionPower }) => emissionPower > 0 || switched.has(id))
        .map(({ name }) => name),
    },
    camera: (shot?.camera && aimed.cameras[shot.camera]) || inOrder(aimed.cameras)[0] || null,
    set: state.set,
  };
}

/** Ids of lights and finishes whose power or switch a shot changes over time. */
function switchedSources(shot: Shot | null): Set<string> {
  const paths = shot ? [...Object.keys(shot.tracks), ...Object.values(shot.moves).map(({ target }) => target)] : [];
  return new Set(
    paths.flatMap((path) => /^(?:lights|finishes)\/([^/]+)\/(?:on|power|emissionPower)$/.exec(path)?.[1] ?? []),
  );
}

/**
 * World transforms of nodes of an evaluated state, by id; of what is copied, as if it were not.
 * @param of the nodes that are asked for, all where none are named; what they hang under comes with them
 */
export function worldTransforms(
  state: Evaluated,
  of: readonly string[] = Object.keys(state.nodes),
): Map<string, Transform> {
  const world = new Map<string, PlacedNode>();
  for (const id of of) if (state.nodes[id]) placeNode(state, state.nodes[id], world);
  return new Map([...world].map(([id, { transform }]) => [id, transform]));
}

/** Lights and cameras of an evaluated state as they stand in the world, sharp at what they follow. */
export function placedAimed(
  state: Evaluated,
  world = new Map<string, PlacedNode>(),
): Pick<Evaluated, 'lights' | 'cameras'> {
  const place = <T extends Light | Camera>(each: T): T => {
    const carrier = each.parent === null ? undefined : state.nodes[each.parent];
    return carrier ? placeAimed(each, placeNode(state, carrier, world).transform) : each;
  };
  const focus = (camera: Camera): Camera => {
    const followed = camera.focusOn && state.nodes[camera.focusOn.node];
    if (!followed) return camera;
    const point = transformPoint(placeNode(state, followed, world).transform, camera.focusOn!.point);
    return { ...camera, focusDistance: focusDistanceTo(camera, point) };
  };
  const all = <T extends Light | Camera>(record: Record<string, T>, change: (each: T) => T) =>
    Object.fromEntries(Object.entries(record).map(([id, each]) => [id, change(each)]));
  return { lights: all(state.lights, place), cameras: all(state.cameras, (camera) => focus(place(camera))) };
}

/** A node's own transform: scale and turn about its pivot, then its position. */
export const localTransform = (node: SceneNode, spin?: Quaternion): Transform =>
  transformAbout(node.pivot, node.position, spunTurn(node, spin), node.scale);

/** The transforms of all copies of a node, in the space of what it hangs under; its own alone where it has none. */
export function copyTransforms(node: SceneNode, spin?: Quaternion): Transform[] {
  if (!node.copies) return [localTransform(node, spin)];
  const turn = spunTurn(node, spin);
  return copyPlaces(node.copies).map((place) =>
    transformAbout(node.pivot, add(node.position, place.offset), copyTurn(place, turn), scale(node.scale, place.scale)),
  );
}

const spunTurn = (node: SceneNode, spin?: Quaternion): Quaternion =>
  spin ? multiplyQuaternions(spin, quaternionFromTurn(node.turn)) : quaternionFromTurn(node.turn);

function transformAbout(pivot: Vector, position: Vector, turn: Quaternion, size: Vector): Transform {
  const turned = composeTransform(add(position, pivot), turn, size);
  return multiplyTransforms(turned, [1, 0, 0, -pivot[0], 0, 1, 0, -pivot[1], 0, 0, 1, -pivot[2]]);
}

interface PlacedNode {
  /** As if neither it nor what it hangs under were copied. */
  transform: Transform;
  /** Every place at which it is shown. */
  instances: Transform[];
  visible: boolean;
}

/** Copies in copies multiply; more than this of one node are left out, so that no document can fill the memory. */
const MOST_INSTANCES = 50_000;

function manyInstances(outer: readonly Transform[], own: readonly Transform[]): Transform[] {
  const made: Transform[] = [];
  for (const each of outer) {
    for (const local of own) {
      if (made.length >= MOST_INSTANCES) return made;
      made.push(multiplyTransforms(each, local));
    }
  }
  return made;
}

const WORLD: PlacedNode = { transform: IDENTITY, instances: [IDENTITY], visible: true };

function placeNode(state: Evaluated, node: SceneNode, world: Map<string, PlacedNode>): PlacedNode {
  const known = world.get(node.id);
  if (known) return known;
  const parentNode = node.parent === null ? undefined : state.nodes[node.parent];
  const parent = parentNode ? placeNode(state, parentNode, world) : WORLD;
  const spin = state.spins.get(node.id);
  const transform = multiplyTransforms(parent.transform, localTransform(node, spin));
  const plain = !node.copies && parent.instances.length === 1 && parent.instances[0] === parent.transform;
  const placed = {
    transform,
    instances: plain ? [transform] : manyInstances(parent.instances, copyTransforms(node, spin)),
    visible: parent.visible && node.visible,
  };
  world.set(node.id, placed);
  return placed;
}

/** Fades of one property take turns: the one that began last is the one that counts. Everything else acts together. */
function actingMoves(shot: Shot, frame: number): Move[] {
  const moves = Object.values(shot.moves).sort((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
  const fades = new Map<string, Move>();
  for (const move of moves) {
    if (move.kind === 'ramp' && (!fades.has(move.target) || move.start <= frame)) fades.set(move.target, move);
  }
  return moves.filter((move) => move.kind !== 'ramp' || fades.get(move.target) === move);
}

type SetValue = (path: string, value: Parameters<typeof writeProperty>[2]) => void;

function applyMove(state: Evaluated, move: Move, frame: number, setValue: SetValue, own: Set<string>): void {
  if (move.kind === 'blink') return setValue(move.target, blinkValue(move, frame));
  const progress = paced(move.pace, moveProgress(move, frame));
  if (move.kind === 'ramp') {
    const present = readProperty(state, move.target);
    if (present === undefined) return;
    return setValue(move.target, blendValues(move.from, move.to, progress, propertyKind(move.target, present)));
  }
  const [collection, id] = move.target.split('/') as [string, string];
  if (collection === 'nodes') return moveNode(state, move, frame, progress, id, own);
  const aimed = collection === 'cameras' ? state.cameras[id] : collection === 'lights' ? state.lights[id] : undefined;
  if (!aimed) return;
  detach(state, `${collection}/${id}/position`, own);
  const moved = (collection === 'cameras' ? state.cameras[id] : state.lights[id])!;
  if (move.kind === 'travel') {
    const offset = mix(move.from, move.to, progress);
    moved.position = add(moved.position, offset);
    if (move.carryTarget) moved.target = add(moved.target, offset);
  } else {
    const center = (move.kind === 'orbit' && move.center) || moved.target;
    const turn = quaternionAbout(move.axis, moveAngle(move, frame));
    moved.position = add(center, rotateVector(subtract(moved.position, center), turn));
  }
}

function moveNode(
  state: Evaluated,
  move: Exclude<Move, { kind: 'ramp' | 'blink' }>,
  frame: number,
  progress: number,
  id: string,
  own: Set<string>,
): void {
  const node = state.nodes[id];
  if (!node) return;
  detach(state, `nodes/${id}/position`, own);
  const moved = state.nodes[id]!;
  if (move.kind === 'travel') {
    moved.position = add(moved.position, mix(move.from, move.to, progress));
    return;
  }
  const turn = quaternionAbout(move.axis, moveAngle(move, frame));
  const before = state.spins.get(id);
  state.spins.set(id, before ? multiplyQuaternions(turn, before) : turn);
  if (move.kind === 'orbit' && move.center) {
    const place = add(moved.position, moved.pivot);
    const swung = add(move.center, rotateVector(subtract(place, move.center), turn));
    moved.position = subtract(swung, moved.pivot);
  }
}

/** Gives the evaluated state its own copy of the entity a path leads to, so that the document stays untouched. */
function detach(state: Evaluated, path: string, own: Set<string>): void {
  const [collection, id] = path.split('/') as [keyof Evaluated, string];
  if (collection === 'set') {
    if (!own.has('set')) state.set = structuredClone(state.set);
    own.add('set');
    return;
  }
  const entity = `${collection}/${id}`;
  if (own.has(entity)) return;
  const record = state[collection] as Record<string, object> | undefined;
  const present = record?.[id];
  if (record && present) record[id] = structuredClone(present);
  own.add(entity);
}
