import {
  inOrder,
  lastOrder,
  newCopies,
  newDocument,
  newFinish,
  newId,
  newLight,
  newNode,
  type ProjectDocument,
  type SetPiece,
} from '../document';
import { placeAbout, type Lit } from '../optics';
import { forgetTargets, removeNodes } from '../scene';
import type { ReadySet, SetLamp, SetProp } from './kind';

type Place = [number, number, number];

/** The most that can be told of a length in a document. */
const LONGEST = 1e6;
const within = (v: number): number => Math.min(LONGEST, Math.max(0.1, Number(v.toPrecision(4))));

/**
 * Puts a ready set in place of the set that is there: floor, surroundings, what is behind, air, lamps and look; product, its motion and cameras
 * stay. Lamps that hang on something belong to the product. What a shot changed of the former set goes with it.
 */
export function applySet(draft: ProjectDocument, ready: ReadySet, lit: Lit): void {
  removeFormer(draft);
  const { set } = newDocument('Set');
  const azimuth = azimuthOf(lit);
  const { size } = lit;
  draft.set = {
    ...set,
    floor: {
      ...set.floor,
      // A sweep that is too near is lit by all lamps alike, one that is far is dark.
      ...{ size: within(12 * size), depth: within(2.2 * size), turn: azimuth },
      ...ready.floor,
    },
    surroundings: {
      ...set.surroundings,
      ...ready.surroundings,
      turn: azimuth + (ready.surroundings.turn ?? 0),
      gradient: ready.gradient ?? set.surroundings.gradient,
      sky: { ...set.surroundings.sky, ...ready.sky },
    },
    behind: { ...set.behind, ...(ready.behind ?? { kind: 'surroundings' }) },
    air: { ...set.air, reach: within(10 * size) },
    ready: { name: ready.name, lights: [], nodes: [], finishes: [] },
  };
  const own = draft.set.ready!;
  for (const lamp of ready.lamps ?? []) own.lights.push(addLamp(draft, lamp, lit));
  for (const prop of ready.props ?? []) addProp(draft, prop, lit, azimuth);
  Object.assign(draft.look, { exposure: 0, contrast: 1, saturation: 1 }, ready.look);
}

function removeFormer(draft: ProjectDocument): void {
  const former = draft.set.ready;
  const lights = former ? former.lights.filter((id) => draft.lights[id]) : inOrder(draft.lights).filter(({ parent }) => parent === null).map(({ id }) => id); // prettier-ignore
  forgetTargets(draft, 'lights', lights);
  for (const id of lights) delete draft.lights[id];
  removeNodes(draft, former?.nodes.filter((id) => draft.nodes[id]) ?? []);
  const worn = new Set(Object.values(draft.nodes).map(({ finish }) => finish));
  for (const id of former?.finishes ?? []) if (!worn.has(id)) delete draft.finishes[id];
  for (const { tracks, changes } of Object.values(draft.shots))
    for (const record of [tracks, changes])
      for (const path of Object.keys(record)) if (path.startsWith('set/')) delete record[path];
}

function azimuthOf({ center, eye }: Lit): number {
  return Math.atan2(eye[0] - center[0], eye[2] - center[2]);
}

function addLamp(draft: ProjectDocument, lamp: SetLamp, lit: Lit): string {
  const [width, height] = lamp.size.map((v) => within(v * lit.size)) as [number, number];
  const light = newLight(lamp.kind, {
    name: lamp.name,
    order: lastOrder(draft.lights),
    position: placeAbout(lamp.at, lit) as Place,
    target: (lamp.aim ? placeAbout(lamp.aim, lit) : lit.center) as Place,
    ...spanOf(lamp.kind, width, height),
    power: lamp.nits,
    unit: 'nit',
    ...lamp.over,
  });
  draft.lights[light.id] = light;
  return light.id;
}

const spanOf = (kind: SetLamp['kind'], width: number, height: number) => {
  if (kind === 'panel') return { width, height };
  return kind === 'tube' ? { width, radius: height } : { radius: width };
};

function addProp(draft: ProjectDocument, prop: SetProp, lit: Lit, azimuth: number): void {
  const own = draft.set.ready!;
  const finish = newFinish({ id: newId(), name: prop.name, ...prop.finish });
  draft.finishes[finish.id] = finish;
  own.finishes.push(finish.id);
  const ground = { ...lit, center: [lit.center[0], lit.floor ?? lit.center[1] - lit.size / 2, lit.center[2]] as const };
  const free = { ...ground, floor: null };
  const [x, y, z] = placeAbout([0, 0, 0], free);
  const step = prop.row ? placeAbout(prop.row.step, free).map((v, k) => v - [x, y, z][k]!) : null;
  const node = newNode({
    name: prop.name,
    kind: 'part',
    order: lastOrder(draft.nodes),
    position: placeAbout(prop.at, free) as Place,
    turn: [0, azimuth + (prop.turn ?? 0), 0],
    mesh: { piece: scaled(prop.piece, lit.size) },
    finish: finish.id,
    copies: prop.row && step ? newCopies({ kind: 'line', count: prop.row.count, spacing: step as Place }) : null,
  });
  draft.nodes[node.id] = node;
  own.nodes.push(node.id);
}

/** A piece as many times as large. */
const scaled = (piece: SetPiece, by: number): SetPiece =>
  Object.fromEntries(Object.entries(piece).map(([name, v]) => [name, typeof v === 'number' && v > 0 ? within(v * by) : v])) as SetPiece; // prettier-ignore
